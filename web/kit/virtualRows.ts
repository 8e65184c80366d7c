import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useState, type RefObject } from 'react';

interface Asked {
  /** The table. */
  table: RefObject<HTMLElement | null>;
  count: number;
  keyOf: (index: number) => string | number;
}

/** So many rows are drawn beyond what is seen, above and below. */
const beyond = 12;
/** As high as a row mostly is, in pixels, until it is measured. */
const usual = 45;

/** What an element is scrolled in; the page when nothing else scrolls. */
function scrollerOf(element: HTMLElement): HTMLElement {
  for (let at = element.parentElement?.parentElement; at; at = at.parentElement) if (/auto|scroll/.test(getComputedStyle(at).overflowY)) return at;
  return document.documentElement;
}

/** Of many rows only those that are seen are drawn; returns them, and how high what stands above and below them is, in pixels. */
export function useVirtualRows({ table, count, keyOf }: Asked) {
  const [{ scroller, from, head }, setPlace] = useState<{ scroller: HTMLElement | null; from: number; head: number }>({ scroller: null, from: 0, head: 0 });
  useLayoutEffect(() => {
    const element = table.current;
    if (!element) return;
    const place = () => {
      const found = scrollerOf(element);
      const top = element.getBoundingClientRect().top - found.getBoundingClientRect().top + found.scrollTop;
      const next = { scroller: found, from: Math.round(top), head: element.querySelector('thead')?.offsetHeight ?? 0 };
      setPlace((was) => (was.scroller === next.scroller && was.from === next.from && was.head === next.head ? was : next));
    };
    place();
    window.addEventListener('resize', place);
    return () => window.removeEventListener('resize', place);
  }, [table, count]);
  const virtual = useVirtualizer<HTMLElement, HTMLElement>({
    count,
    getScrollElement: () => scroller,
    estimateSize: () => usual,
    getItemKey: keyOf,
    overscan: beyond,
    scrollMargin: from + head,
    scrollPaddingStart: head,
  });
  const items = virtual.getVirtualItems();
  const first = items[0];
  const last = items.at(-1);
  return {
    items,
    above: first ? first.start - from - head : 0,
    below: last ? virtual.getTotalSize() - (last.end - from - head) : 0,
    measure: virtual.measureElement,
    show: (index: number) => virtual.scrollToIndex(index, { align: 'auto' }),
  };
}
