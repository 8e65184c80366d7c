import { useRef, useState } from 'react';

/** Does one thing after the other: what is asked for while something is under way waits for its end, however that ends. */
export function useInTurn() {
  const [waiting, setWaiting] = useState(0);
  const queue = useRef<{ length: number; last: Promise<unknown> }>({ length: 0, last: Promise.resolve() });
  const change = (by: number) => {
    queue.current.length += by;
    setWaiting(queue.current.length);
  };
  const inTurn = async <T>(run: () => Promise<T>): Promise<T> => {
    const mine = queue.current.last.then(run);
    queue.current.last = mine.catch(() => undefined);
    change(1);
    try {
      return await mine;
    } finally {
      change(-1);
    }
  };
  /** Whether something is under way: as it was drawn, and at this moment. */
  return { isBusy: waiting > 0, isBusyNow: () => queue.current.length > 0, inTurn };
}
