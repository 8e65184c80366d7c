import Box from '@mui/material/Box';
import OutlinedInput from '@mui/material/OutlinedInput';
import { parseLineEntry } from '@larder/core/catalog/lineEntry';
import type { ItemRow } from '@larder/contract/catalog';
import { useRef, useState, type KeyboardEvent } from 'react';
import { useItemsQuery, useLazyItemsQuery, useLazyReadCodeQuery } from './items';
import { useDelayed } from '../kit/delayed';
import { useScan } from '../kit/scan';
import { LineOptions } from './LineOptions';

const dashed = { width: '100%', '& .MuiOutlinedInput-notchedOutline': { borderStyle: 'dashed' } };

/** Goes on to the next line, where the head of a document is done. */
export const focusNewLine = (): void => document.querySelector<HTMLInputElement>('[data-new-line]')?.focus();

/** One field for a new line: words, a code or a scan, with the quantity in front or behind. Enter takes the item and is ready for the next. */
export function LineEntry({
  add,
  label = 'New line',
  takesScans = true,
  autoFocus = false,
}: {
  add: (item: ItemRow, quantity: string, unitId: number | null) => void;
  label?: string;
  /** False where one item is chosen beside what the page itself takes scans for: then nobody is asked how many either. */
  takesScans?: boolean;
  /** It is the first thing that is typed on its page. */
  autoFocus?: boolean;
}) {
  const [text, setText] = useState('');
  const [active, setActive] = useState(0);
  const [missed, setMissed] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const entry = parseLineEntry(text);
  const words = useDelayed(entry?.words ?? '', 120);
  const ask = (q: string) => ({ query: { q, sort: 'best' as const, limit: 8 } });
  const { currentData } = useItemsQuery(ask(words), { skip: words === '' });
  const [lookUp] = useLazyItemsQuery();
  const [readCode] = useLazyReadCodeQuery();
  const options = entry && words !== '' ? (currentData?.rows ?? []) : [];

  const take = (item: ItemRow, many: string, unitId: number | null = null) => {
    add(item, many, unitId);
    setText('');
    setActive(0);
    setMissed('');
    input.current?.focus();
  };
  /** Looks the words up as they are now, when the list is still the one of an earlier key. Gives whether an item was taken. */
  const takeTyped = async (typed: string): Promise<boolean> => {
    const now = parseLineEntry(typed);
    if (!now) return false;
    const rows = (await lookUp(ask(now.words), true)).data?.rows ?? [];
    const whole = rows.length > 0 ? rows : ((await lookUp(ask(typed.trim()), true)).data?.rows ?? []);
    if (whole[0]) take(whole[0], rows.length > 0 ? now.quantity : '1');
    else setMissed(`No item fits “${typed.trim()}”.`);
    return whole[0] !== undefined;
  };
  /** While what was typed is looked up: an Enter more takes it no second time, and Ctrl Enter waits until the line is there. */
  const taking = useRef<Promise<boolean> | null>(null);
  const begin = (typed: string) => {
    // Until the field was drawn anew, and is empty.
    taking.current = takeTyped(typed).finally(() => setTimeout(() => (taking.current = null)));
  };
  const waits = (event: KeyboardEvent): void => {
    event.stopPropagation();
    const again = () => input.current?.dispatchEvent(new window.KeyboardEvent('keydown', { key: 'Enter', ctrlKey: true, bubbles: true, cancelable: true }));
    void taking.current?.then((isTaken) => isTaken && setTimeout(again));
  };
  /** A scan is one of what the code is on: a piece, a case, or as many as the code itself says. Several items: the list asks which. */
  const takeScanned = async (code: string) => {
    const read = (await readCode({ query: { code } }, true)).data;
    const only = read?.items.length === 1 ? read.items[0] : undefined;
    const row = only ? (await lookUp(ask(only.sku), true)).data?.rows.find(({ id }) => id === only.itemId) : undefined;
    if (only && row) return take(row, read?.quantity ?? '1', read?.quantity ? null : (row.units.find(({ unit }) => unit === only.unit)?.unitId ?? null));
    if ((read?.items.length ?? 0) > 1) {
      setText(code);
      return input.current?.focus();
    }
    await takeTyped(code);
  };
  useScan((code) => {
    if (takesScans) void takeScanned(code);
    return takesScans;
  });
  const press = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown') setActive((now) => Math.min(now + 1, options.length - 1));
    else if (event.key === 'ArrowUp') setActive((now) => Math.max(now - 1, 0));
    else if (event.key === 'Enter' && taking.current) {
      if (event.ctrlKey) waits(event);
    } else if (event.key === 'Enter' && !event.ctrlKey && entry) {
      const chosen = words === entry.words ? options[active] : undefined;
      if (chosen) take(chosen, entry.quantity);
      else begin(text);
    } else return;
    event.preventDefault();
  };
  return (
    <Box sx={{ position: 'relative', maxWidth: 460 }}>
      <OutlinedInput
        inputRef={input}
        autoFocus={autoFocus}
        sx={dashed}
        slotProps={{
          input: {
            role: 'combobox',
            'aria-label': label,
            ...(takesScans ? { 'data-new-line': 'yes' } : {}),
            'aria-expanded': options.length > 0,
            'aria-controls': 'line-options',
            'aria-activedescendant': options.length > 0 ? `line-options-${active}` : undefined,
            maxLength: 200,
          },
        }}
        placeholder={takesScans ? 'Words, a code or a scan, with the quantity in front or behind' : 'Words, a SKU or a barcode'}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setActive(0);
          setMissed('');
        }}
        onKeyDown={press}
      />
      {missed ? (
        <p role="alert" className="late">
          {missed}
        </p>
      ) : null}
      <LineOptions options={entry ? options : []} many={entry?.quantity ?? '1'} active={active} take={(item) => take(item, entry?.quantity ?? '1')} />
    </Box>
  );
}
