import { parseLineEntry } from '@larder/core/catalog/lineEntry';
import type { PastedLine } from '@larder/core/catalog/pastedLines';
import type { ItemRow } from '@larder/contract/catalog';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent, type RefObject } from 'react';
import { useDelayed } from '../kit/delayed';
import { count } from '../kit/format';
import { blockOf } from '../kit/pasteBlock';
import type { Heard } from '../kit/scan';
import { useItemsQuery, useLazyItemsMeantQuery, useLazyItemsQuery, useLazyReadCodeQuery } from './items';

/** Takes an item as a line, so many of a unit; null: of its base unit, or the one it usually goes by. */
export type TakeLine = (item: ItemRow, quantity: string, unitId: number | null) => void;

interface Asked {
  input: RefObject<HTMLInputElement | null>;
  add: TakeLine;
  /** Whose lines they are: what they have bought comes first, and what they call an item means it. */
  customerId: number | undefined;
  /** Whether many lines may be pasted at once. */
  pastes: boolean;
}

/** What one field for new lines does: finds items while somebody types, takes one with Enter, and takes what is scanned or pasted. */
export function useLineEntry({ input, add, customerId, pastes }: Asked) {
  const [text, setText] = useState('');
  const [active, setActive] = useState(0);
  const [said, setSaid] = useState<{ text: string; isWrong: boolean } | null>(null);
  const entry = parseLineEntry(text);
  const words = useDelayed(entry?.words ?? '', 120);
  const ask = (q: string) => ({ query: { q, sort: 'best' as const, limit: 8, customerId } });
  const { currentData } = useItemsQuery(ask(words), { skip: words === '' });
  const [lookUp] = useLazyItemsQuery();
  const [readCode] = useLazyReadCodeQuery();
  const pasted = usePasted(add, customerId, setSaid);
  const options = entry && words !== '' ? (currentData?.rows ?? []) : [];

  const type = (typed: string) => {
    setText(typed);
    setActive(0);
    setSaid(null);
  };
  const take = (item: ItemRow, many: string, unitId: number | null = null) => {
    add(item, many, unitId);
    type('');
    input.current?.focus();
  };
  /** Looks the words up as they are now, when the list is still the one of an earlier key. Gives whether an item was taken: where several fit, the list asks which. */
  const takeTyped = async (typed: string): Promise<boolean> => {
    const now = parseLineEntry(typed);
    if (!now) return false;
    const rows = (await lookUp(ask(now.words), true)).data?.rows ?? [];
    const whole = rows.length > 0 ? rows : ((await lookUp(ask(typed.trim()), true)).data?.rows ?? []);
    const only = onlyOne(whole);
    if (only) take(only, rows.length > 0 ? now.quantity : '1');
    else setSaid(whole.length > 0 ? { text: 'Several items fit: choose one.', isWrong: false } : { text: `No item fits “${typed.trim()}”.`, isWrong: true });
    return only !== undefined;
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
  const takeScanned = async (code: string): Promise<Heard> => {
    const read = (await readCode({ query: { code } }, true)).data;
    const only = read?.items.length === 1 ? read.items[0] : undefined;
    const row = only ? (await lookUp(ask(only.sku), true)).data?.rows.find(({ id }) => id === only.itemId) : undefined;
    if (only && row) {
      take(row, read?.quantity ?? '1', read?.quantity ? null : (row.units.find(({ unit }) => unit === only.unit)?.unitId ?? null));
      return true;
    }
    if ((read?.items.length ?? 0) > 1) {
      type(code);
      input.current?.focus();
      return 'refused';
    }
    if (await takeTyped(code)) return true;
    setText(code);
    return 'refused';
  };
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
  const paste = (event: ClipboardEvent) => {
    const block = pastes ? blockOf(event.clipboardData.getData('text/plain')) : null;
    if (!block) return;
    event.preventDefault();
    void pasted.take(block);
  };
  /** A pasted line that nothing was found for is typed, to be found by words. */
  const find = (line: PastedLine) => {
    pasted.forget(line);
    type(`${line.quantity} ${line.code}`);
    input.current?.focus();
  };
  const many = entry?.quantity ?? '1';
  return {
    text,
    type,
    press,
    paste,
    said,
    many,
    active,
    options,
    takeScanned,
    takeOption: (item: ItemRow) => take(item, many),
    left: pasted.left,
    find,
    forgetLeft: pasted.forgetAll,
  };
}

/** The item that is meant without doubt: the only one that fits, or the only one whose code was typed. */
const onlyOne = (rows: readonly ItemRow[]): ItemRow | undefined => {
  const byCode = rows.filter((row) => row.byCode === true);
  return byCode.length === 1 ? byCode[0] : rows.length === 1 ? rows[0] : undefined;
};

/** Lines pasted from a spreadsheet: those whose code means one item are taken, the others are left to be looked up. */
function usePasted(add: TakeLine, customerId: number | undefined, say: (said: { text: string; isWrong: boolean }) => void) {
  const [left, setLeft] = useState<readonly PastedLine[]>([]);
  const [lookUp] = useLazyItemsMeantQuery();
  const take = async (block: readonly (readonly string[])[]) => {
    const { readPastedLines } = await import('@larder/core/catalog/pastedLines');
    const lines = readPastedLines(block).slice(0, mostPasted);
    const { data } = await lookUp({ body: { codes: lines.map(({ code }) => code.slice(0, 200)), customerId: customerId ?? null } });
    if (!data) return say({ text: 'What was pasted could not be looked up. Paste it again.', isWrong: true });
    const found = lines.map((line, at) => ({ line, items: data.rows[at]?.items ?? [] }));
    for (const { line, items } of found) if (items.length === 1) add(items[0] as ItemRow, line.quantity, null);
    const unknown = found.filter(({ items }) => items.length !== 1).map(({ line }) => line);
    setLeft(unknown);
    say({ text: `${count(lines.length - unknown.length, 'line')} pasted.`, isWrong: false });
  };
  return {
    left,
    take,
    forget: (line: PastedLine) => setLeft(left.filter((one) => one !== line)),
    forgetAll: () => setLeft([]),
  };
}

/** An order has no more lines. */
const mostPasted = 500;
