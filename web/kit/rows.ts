import { useLayoutEffect, useRef } from 'react';

interface Rows {
  count: number;
  selected: number;
  select: (index: number) => void;
  open: (index: number) => void;
  /** What a row begins with, for typing its first letters. */
  beginning?: (index: number) => string;
  /** Takes rows into what is chosen, or out of it. */
  choose?: ((from: number, to: number, on: boolean) => void) | undefined;
  isChosen?: (index: number) => boolean;
  /** Opens a row in place, or closes it. */
  turn?: (index: number, on: boolean) => void;
}

/** So many rows are gone past at once. */
const pageful = 12;
/** So long letters typed belong together, in milliseconds. */
const together = 700;

const goesTo = (key: string, at: number, count: number): number | null => {
  const to = { ArrowDown: at + 1, ArrowUp: at - 1, PageDown: at + pageful, PageUp: at - pageful, Home: 0, End: count - 1 }[key];
  return to === undefined ? null : Math.max(0, Math.min(to, count - 1));
};

/**
 * List and peek by keyboard: arrow keys, Home, End and the page keys move, Enter opens, right and left open a row in place and close it, letters go to the row that begins with them, Space chooses the row
 * and Shift all rows gone past; not while somebody types in a field.
 */
export function useRowKeys(rows: Rows): void {
  const latest = useRef(rows);
  const typed = useRef({ letters: '', at: 0 });
  useLayoutEffect(() => {
    latest.current = rows;
  });
  useLayoutEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { count, selected, select, open, choose, isChosen, turn } = latest.current;
      const busy = event.target instanceof HTMLElement && event.target.matches('input, textarea, select, button, a, [role="dialog"] *');
      if (busy || event.ctrlKey || event.altKey || event.metaKey || count === 0) return;
      const to = goesTo(event.key, selected, count);
      if (to !== null) {
        if (event.shiftKey) choose?.(selected, to, true);
        select(to);
      } else if (event.key === 'Enter') open(selected);
      else if (event.key === 'ArrowRight' && turn) turn(selected, true);
      else if (event.key === 'ArrowLeft' && turn) turn(selected, false);
      else if (event.key === ' ' && choose) choose(selected, selected, !isChosen?.(selected));
      else if (/^[\p{L}\p{N}-]$/u.test(event.key)) return goToLetters(event.key, event.timeStamp);
      else return;
      event.preventDefault();
    };
    const goToLetters = (letter: string, now: number) => {
      const { count, selected, select, beginning } = latest.current;
      if (!beginning) return;
      const before = now - typed.current.at < together ? typed.current.letters : '';
      typed.current = { letters: before + letter.toLowerCase(), at: now };
      const from = before === '' ? selected + 1 : selected;
      const line = Array.from({ length: count }, (_, index) => (from + index) % count);
      const found = line.find((index) => beginning(index).toLowerCase().startsWith(typed.current.letters));
      if (found !== undefined) select(found);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
