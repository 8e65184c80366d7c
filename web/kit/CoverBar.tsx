import Link from '@mui/material/Link';

interface CoverBarProps {
  here: number;
  coming: number;
  unknown: number;
  words: string;
  /** Opens what can be done about it; the words are the way in. */
  open?: (() => void) | undefined;
}

/** Where a line's quantity comes from: here (solid), coming (dashed slate), nobody knows yet (dashed brick). The words say the same. */
export function CoverBar({ here, coming, unknown, words, open }: CoverBarProps) {
  const total = here + coming + unknown || 1;
  const width = (part: number) => (130 * part) / total;
  return (
    <span>
      <svg width="132" height="14" aria-hidden="true" style={{ display: 'block' }}>
        {here > 0 ? <rect x="1" y="1" width={width(here)} height="12" fill="var(--sage)" /> : null}
        {coming > 0 ? <rect x={1 + width(here)} y="1.5" width={width(coming)} height="11" fill="none" stroke="var(--slate)" strokeDasharray="3 2" /> : null}
        {unknown > 0 ? (
          <rect x={1 + width(here + coming)} y="1.5" width={width(unknown)} height="11" fill="none" stroke="var(--brick)" strokeDasharray="3 2" />
        ) : null}
      </svg>
      <small className={unknown > 0 ? 'out' : 'quiet'}>
        {open ? (
          <Link component="button" type="button" aria-haspopup="dialog" color="inherit" sx={{ font: 'inherit' }} onClick={open}>
            {words}
          </Link>
        ) : (
          words
        )}
      </small>
    </span>
  );
}
