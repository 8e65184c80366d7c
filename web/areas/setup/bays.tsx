import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { CellCheck } from '../../kit/Check';
import { binPath } from '@larder/core/setup/bins';
import type { Bin } from '@larder/contract/setup';
import { count } from '../../kit/format';

export const bayOf = (bin: Bin | undefined): string => (bin === undefined || bin.unplaced ? '' : binPath(bin.code).bay);

interface BayRowProps {
  bay: string;
  bins: readonly Bin[];
  chosen: readonly number[];
  toggle: (ids: readonly number[]) => void;
}

/** A bay with its bins, to be chosen together. */
export function BayRow({ bay, bins, chosen, toggle }: BayRowProps) {
  const ids = bins.filter((bin) => bayOf(bin) === bay).map(({ id }) => id);
  return (
    <TableRow>
      <TableCell>
        <CellCheck label={`Choose bay ${bay}`} checked={ids.every((id) => chosen.includes(id))} onChange={() => toggle(ids)} />
      </TableCell>
      <TableCell component="th" colSpan={4} scope="row">
        Bay <span className="code">{bay}</span> <span className="quiet">{count(ids.length, 'bin')}</span>
      </TableCell>
    </TableRow>
  );
}

/** Bins under their zone and aisle. */
export function groups(bins: readonly Bin[]): { title: string; list: Bin[] }[] {
  const found = new Map<string, Bin[]>();
  for (const bin of bins) {
    const { aisle } = binPath(bin.code);
    const title = [bin.zone, bin.unplaced || aisle === '' ? '' : `Aisle ${aisle}`].filter((part) => part !== '').join(', ');
    found.set(title, [...(found.get(title) ?? []), bin]);
  }
  return [...found].map(([title, list]) => ({ title, list }));
}
