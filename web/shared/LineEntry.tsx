import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import OutlinedInput from '@mui/material/OutlinedInput';
import type { PastedLine } from '@larder/core/catalog/pastedLines';
import { useRef } from 'react';
import { count } from '../kit/format';
import { Notice } from '../kit/Notice';
import { useScan } from '../kit/scan';
import { LineOptions } from './LineOptions';
import { useLineEntry, type TakeLine } from './useLineEntry';

const dashed = { width: '100%', '& .MuiOutlinedInput-notchedOutline': { borderStyle: 'dashed' } };

/** Goes on to the next line, where the head of a document is done. */
export const focusNewLine = (): void => document.querySelector<HTMLInputElement>('[data-new-line]')?.focus();

interface LineEntryProps {
  add: TakeLine;
  label?: string;
  /** False where one item is chosen beside what the page itself takes scans for: then nobody is asked how many either. */
  takesScans?: boolean;
  /** It is where the next line of a document is begun, also where the page takes the scans itself. */
  isNewLine?: boolean;
  /** It is the first thing that is typed on its page. */
  autoFocus?: boolean;
  /** Many lines may be pasted at once. */
  pastes?: boolean;
  /** Whose lines they are: what they have bought comes first, and what they call an item means it. */
  customerId?: number | undefined;
}

/** One field for a new line: words, a code or a scan, with the quantity in front or behind. Enter takes the item that is meant and is ready for the next; where several fit it is chosen from the list. */
export function LineEntry({
  add,
  label = 'New line',
  takesScans = true,
  isNewLine = takesScans,
  autoFocus = false,
  pastes = false,
  customerId,
}: LineEntryProps) {
  const input = useRef<HTMLInputElement>(null);
  const entry = useLineEntry({ input, add, customerId, pastes });
  const { text, options, active, said, left } = entry;
  useScan((code) => (takesScans ? entry.takeScanned(code) : false));
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
            ...(isNewLine ? { 'data-new-line': 'yes' } : {}),
            'aria-expanded': options.length > 0,
            'aria-controls': 'line-options',
            'aria-activedescendant': options.length > 0 ? `line-options-${active}` : undefined,
            maxLength: 200,
          },
        }}
        placeholder={isNewLine ? 'Words, a code or a scan, with the quantity in front or behind' : 'Words, a SKU or a barcode'}
        value={text}
        onChange={(event) => entry.type(event.target.value)}
        onKeyDown={entry.press}
        onPaste={entry.paste}
      />
      {said ? (
        <p role={said.isWrong ? 'alert' : 'status'} className={said.isWrong ? 'late' : 'quiet'}>
          {said.text}
        </p>
      ) : null}
      {left.length > 0 ? <LeftOver lines={left} find={entry.find} forget={entry.forgetLeft} /> : null}
      <LineOptions options={options} many={entry.many} active={active} take={entry.takeOption} />
    </Box>
  );
}

interface LeftOverProps {
  lines: readonly PastedLine[];
  find: (line: PastedLine) => void;
  forget: () => void;
}

/** Pasted lines that no item, or more than one, was found for. */
const LeftOver = ({ lines, find, forget }: LeftOverProps) => (
  <Notice aria-label="Pasted lines that are left">
    <p>
      {count(lines.length, 'line')} of what was pasted {lines.length === 1 ? 'has' : 'have'} no code that means one item:
    </p>
    <Box component="ul" sx={{ listStyle: 'none', padding: 0, margin: 0, maxHeight: 240, overflow: 'auto' }}>
      {lines.map((line, index) => (
        <li key={index}>
          {line.quantity} × <span className="code">{line.code}</span>{' '}
          <Button size="small" onClick={() => find(line)}>
            Find “{line.code}”
          </Button>
        </li>
      ))}
    </Box>
    <Button size="small" onClick={forget}>
      Leave them away
    </Button>
  </Notice>
);
