import { useMemo } from 'react';

/** The rows of a list as far as they were asked for, and how it goes on. */
export interface Going<T> {
  /** Undefined until the first of them are there. */
  rows: readonly T[] | undefined;
  error: unknown;
  /** Whether an answer is on its way. */
  isAsking: boolean;
  /** Whether there are more than these. */
  hasMore: boolean;
  /** Asks for those that follow; while they are on their way nothing more is asked. */
  more: () => void;
}

/** What asking for a list page by page tells. */
interface Asked<T> {
  data?: { pages: readonly { rows: readonly T[] }[] } | undefined;
  error?: unknown;
  hasNextPage: boolean;
  isFetching: boolean;
  fetchNextPage: () => unknown;
}

/** A list that is read on where it ends, as one. */
export function useGoing<T>({ data, error, hasNextPage, isFetching, fetchNextPage }: Asked<T>): Going<T> {
  const rows = useMemo(() => data?.pages.flatMap((page) => page.rows), [data]);
  return {
    rows,
    error,
    isAsking: isFetching,
    hasMore: hasNextPage,
    more: () => {
      if (hasNextPage && !isFetching) void fetchNextPage();
    },
  };
}
