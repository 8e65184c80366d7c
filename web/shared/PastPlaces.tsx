import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { PastItem } from '@larder/contract/stock';
import { Fragment } from 'react';
import { money, quantity } from '../kit/format';
import { Waiting } from '../kit/states';
import { BinRows } from './BinRows';
import { useSeesCosts } from './may';
import { useSite } from './site';
import { usePastItemQuery } from './stock';

/** Where an item lay at the end of a day, site by site and bin by bin. */
export function PastPlaces({ itemId, asOf, small = false }: { itemId: number; asOf: string; small?: boolean }) {
  const { siteId } = useSite();
  const { currentData: data, error } = usePastItemQuery({ params: { id: itemId }, query: { asOf, siteId } });
  return data ? <Places data={data} asOf={asOf} small={small} /> : <Waiting error={error} />;
}

const allColumns = [
  ['onHand', 'On hand'],
  ['bench', 'Picked'],
  ['inTransit', 'In transit'],
  ['onLoan', 'On loan'],
  ['quarantine', 'Quarantine'],
] as const;

function Places({ data, asOf, small }: { data: PastItem; asOf: string; small: boolean }) {
  const isWorthShown = useSeesCosts();
  // What none of the sites had is left out.
  const columns = allColumns.filter(([key]) => key === 'onHand' || data.sites.some((site) => Number(site[key]) !== 0));
  return (
    <Table size={small ? 'small' : 'medium'} aria-label="Where it lay">
      <TableHead>
        <TableRow>
          <TableCell>Where</TableCell>
          {columns.map(([key, name]) => (
            <TableCell key={key} align="right">
              {name}
            </TableCell>
          ))}
          {isWorthShown ? <TableCell align="right">Value</TableCell> : null}
        </TableRow>
      </TableHead>
      <TableBody>
        {data.sites.map((site) => (
          <Fragment key={site.siteId}>
            <TableRow>
              <TableCell className="strong">{site.site}</TableCell>
              {columns.map(([key]) => (
                <TableCell key={key} align="right" className={key === 'onHand' ? 'strong' : ''}>
                  {quantity(site[key], key !== 'onHand')}
                </TableCell>
              ))}
              {isWorthShown ? <TableCell align="right">{money(site.value)}</TableCell> : null}
            </TableRow>
            <BinRows of={data} bins={site.bins} today={asOf} behind={columns.length - (isWorthShown ? 0 : 1)} asOf={asOf} />
          </Fragment>
        ))}
        {data.sites.length === 0 ? (
          <TableRow>
            <TableCell colSpan={7} className="quiet">
              None was here then.
            </TableCell>
          </TableRow>
        ) : null}
      </TableBody>
    </Table>
  );
}
