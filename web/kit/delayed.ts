import { useEffect, useState } from 'react';

/** `value` as it was once it had stayed the same for `ms` milliseconds: what to ask the server for while somebody types. */
export function useDelayed<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  const identity = JSON.stringify(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(JSON.parse(identity ?? 'null') as T), ms);
    return () => clearTimeout(timer);
  }, [identity, ms]);
  return settled;
}

/** `value` as it last was while nothing was under way: what stays on the screen until there is another answer. */
export function useStanding<T>(value: T, isUnderWay: boolean): T {
  const [standing, setStanding] = useState(value);
  if (isUnderWay) return standing;
  if (standing !== value) setStanding(value);
  return value;
}

/** Whether what is asked has stayed the same for `ms` milliseconds; it has when it is asked first. What everybody can wait for is asked only then. */
export const useIsRested = (asked: object, ms: number): boolean => JSON.stringify(useDelayed(asked, ms)) === JSON.stringify(asked);
