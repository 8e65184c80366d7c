import { useCallback, useLayoutEffect, useRef } from 'react';

/** A function that is the same one for as long as it is there, and does what the last one given does: what it is handed to is not drawn anew for it. */
export function useSteady<A extends unknown[], R>(work: (...given: A) => R): (...given: A) => R {
  const latest = useRef(work);
  useLayoutEffect(() => {
    latest.current = work;
  });
  return useCallback((...given: A) => latest.current(...given), []);
}
