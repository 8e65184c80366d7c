import type { Pages } from './pages';

/** Back and forth through the pages of a list; nothing when there is only one. */
export function Pager({ pages, next }: { pages: Pages; next: string | null | undefined }) {
  if (pages.page === 1 && !next) return null;
  return (
    <span className="tabs">
      <button type="button" onClick={pages.back} disabled={pages.page === 1}>
        Page before
      </button>
      <button type="button" onClick={() => next && pages.forth(next)} disabled={!next}>
        Next page
      </button>
    </span>
  );
}
