import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { Card } from '../../kit/layout';
import { CellCheck } from '../../kit/Check';
import type { Bin } from '@larder/contract/setup';
import { Link } from 'react-router';
import { BayRow, groups, bayOf } from './bays';

interface BinTableProps {
  bins: readonly Bin[];
  chosen: readonly number[];
  toggle: (ids: readonly number[]) => void;
}

/** The bins of a site in walking order, under their zone, aisle and bay, to be chosen. */
export function BinTable({ bins, chosen, toggle }: BinTableProps) {
  return (
    <Card component="div">
      <Table aria-label="Bins">
        <TableHead>
          <TableRow>
            <TableCell>
              <CellCheck
                label="Choose all bins"
                checked={bins.length > 0 && bins.every(({ id }) => chosen.includes(id))}
                onChange={() => toggle(bins.map(({ id }) => id))}
              />
            </TableCell>
            <TableCell>Bin</TableCell>
            <TableCell>Zone</TableCell>
            <TableCell>For</TableCell>
            <TableCell align="right">Items in it</TableCell>
          </TableRow>
        </TableHead>
        {groups(bins).map(({ title, list }) => (
          <TableBody key={title}>
            {title === '' ? null : (
              <TableRow className="group">
                <TableCell>
                  <CellCheck
                    label={`Choose ${title}`}
                    checked={list.every(({ id }) => chosen.includes(id))}
                    onChange={() => toggle(list.map(({ id }) => id))}
                  />
                </TableCell>
                <TableCell component="th" colSpan={4} scope="rowgroup">
                  {title}
                </TableCell>
              </TableRow>
            )}
            {list.map((bin, at) => [
              bayOf(bin) !== '' && bayOf(bin) !== bayOf(list[at - 1]) ? (
                <BayRow key={`bay ${bin.id}`} bay={bayOf(bin)} bins={list} chosen={chosen} toggle={toggle} />
              ) : null,
              <TableRow key={bin.id} className={bayOf(bin) === '' ? undefined : 'under'}>
                <TableCell>
                  <CellCheck label={`Choose ${bin.code}`} checked={chosen.includes(bin.id)} onChange={() => toggle([bin.id])} />
                </TableCell>
                <TableCell>
                  <Link className="code" to={`/stock/bins/${bin.id}`}>
                    {bin.code}
                  </Link>
                  {bin.retired ? <small className="late"> retired</small> : null}
                </TableCell>
                <TableCell>{bin.zone}</TableCell>
                <TableCell className="quiet">{bin.unplaced ? 'goods without a bin' : bin.sellable ? 'sale' : 'quarantine'}</TableCell>
                <TableCell align="right">{bin.items || ''}</TableCell>
              </TableRow>,
            ])}
          </TableBody>
        ))}
      </Table>
    </Card>
  );
}
