import Button from '@mui/material/Button';
import { useEffect, useRef } from 'react';
import type { Going } from './going';
import { useSteady } from './steady';

/** At the end of the rows that are there: those that follow are asked for as soon as it comes into sight, or when it is pressed. */
export function Onward<T>({ list }: { list: Going<T> }) {
  const end = useRef<HTMLButtonElement>(null);
  const { rows, hasMore } = list;
  const more = useSteady(list.more);
  useEffect(() => {
    if (!end.current) return;
    const observer = new IntersectionObserver((seen) => seen.some(({ isIntersecting }) => isIntersecting) && more(), { rootMargin: '400px' });
    observer.observe(end.current);
    return () => observer.disconnect();
    // Anew when rows were added: the end may still be in sight.
  }, [hasMore, rows, more]);
  return hasMore ? (
    <Button ref={end} onClick={more} disabled={list.isAsking} sx={{ justifySelf: 'start', margin: '10px' }}>
      Show more
    </Button>
  ) : null;
}
