import Button from '@mui/material/Button';
import { Ways } from './layout';
import type { Pages } from './pages';

/** Back and forth through the pages of a list; nothing when there is only one. */
export function Pager({ pages, next }: { pages: Pages; next: string | null | undefined }) {
  if (pages.page === 1 && !next) return null;
  return (
    <Ways>
      <Button onClick={pages.back} disabled={pages.page === 1}>
        Page before
      </Button>
      <Button onClick={() => next && pages.forth(next)} disabled={!next}>
        Next page
      </Button>
    </Ways>
  );
}
