import { useEffect, useRef } from 'react';

interface Rows {
  count: number;
  selected: number;
  select: (index: number) => void;
  open: (index: number) => void;
}

/** List and peek by keyboard: arrow keys move, Enter opens; not while somebody types in a field. */
export function useRowKeys(rows: Rows): void {
  const latest = useRef(rows);
  useEffect(() => {
    latest.current = rows;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { count, selected, select, open } = latest.current;
      const busy = event.target instanceof HTMLElement && event.target.matches('input, textarea, select, button, a, [role="dialog"] *');
      if (busy || event.ctrlKey || count === 0) return;
      if (event.key === 'ArrowDown') select(Math.min(selected + 1, count - 1));
      else if (event.key === 'ArrowUp') select(Math.max(selected - 1, 0));
      else if (event.key === 'Enter') open(selected);
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
