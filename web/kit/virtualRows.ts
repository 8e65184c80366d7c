import { defaultRangeExtractor, measureElement, useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type RefObject } from 'react';

interface Asked {
  /** The table, or a part of it. */
  table: RefObject<HTMLElement | null>;
  count: number;
  keyOf: (index: number) => string | number;
  /** One that stays drawn wherever it is scrolled to: the one that is typed in. */
  kept?: number | null;
  /** How many are drawn beyond what is seen, above and below. */
  beyond?: number;
}

/** As high as a row mostly is, in pixels, until some are measured. */
const usual = 45;

/** What an element is scrolled in; the page when nothing else scrolls. */
function scrollerOf(element: HTMLElement): HTMLElement {
  for (let at = element.parentElement?.parentElement; at; at = at.parentElement) if (/auto|scroll/.test(getComputedStyle(at).overflowY)) return at;
  return document.documentElement;
}

/** Of many rows only those that are seen are drawn; returns them, each with how high what is left out before it is, and how high what is left out after them all, in pixels. */
export function useVirtualRows({ table, count, keyOf, kept = null, beyond = 12 }: Asked) {
  const [{ scroller, from, head }, setPlace] = useState<{ scroller: HTMLElement | null; from: number; head: number }>({ scroller: null, from: 0, head: 0 });
  const isEmpty = count === 0;
  useLayoutEffect(() => {
    const element = table.current?.closest('table');
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
  }, [table, isEmpty]);
  // Rows are mostly as high as each other: those to come are thought to be as high as the last two alike, so that nothing moves when they are drawn.
  const heights = useRef({ last: 0, alike: usual });
  const virtual = useVirtualizer<HTMLElement, HTMLElement>({
    count,
    getScrollElement: () => scroller,
    estimateSize: () => heights.current.alike,
    measureElement: (element, entry, instance) => {
      const height = measureElement(element, entry, instance);
      heights.current = { last: height, alike: height === heights.current.last ? height : heights.current.alike };
      return height;
    },
    getItemKey: keyOf,
    overscan: beyond,
    scrollMargin: from + head,
    scrollPaddingStart: head,
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      return kept === null || kept >= count || seen.includes(kept) ? seen : [...seen, kept].sort((a, b) => a - b);
    },
  });
  const items = virtual.getVirtualItems();
  const last = items.at(-1);
  return {
    items: items.map(({ index, start }, nth) => ({ index, before: start - (items[nth - 1]?.end ?? from + head) })),
    below: last ? virtual.getTotalSize() - (last.end - from - head) : 0,
    measure: virtual.measureElement,
    show: (index: number) => virtual.scrollToIndex(index, { align: 'auto' }),
  };
}
