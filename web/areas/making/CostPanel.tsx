import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableFooter from '@mui/material/TableFooter';
import TableRow from '@mui/material/TableRow';
import type { CostRow } from '@larder/contract/making';
import { decimal } from '@larder/core/decimal';
import { useWatch } from 'react-hook-form';
import { useDelayed } from '../../kit/delayed';
import { price, quantity } from '../../kit/format';
import { Card } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { useBomCostQuery } from './api';
import { bomBody, isReckonable, type BomDraft } from './bomForm';

/** What one costs that is made like this, over all levels, beside what it costs in stock. */
export function CostPanel({ isNew }: { isNew: boolean }) {
  const typed = useWatch<BomDraft>() as BomDraft;
  const asked = useDelayed(bomBody(typed), 300);
  const can = isReckonable(asked);
  const { data, error } = useBomCostQuery({ body: asked }, { skip: !can });
  const idle = 'Say what it is made of.';
  return (
    <Card aria-label="What one costs">
      <h2>
        What one costs<span>made, at what its parts cost now</span>
      </h2>
      {!can && (isNew || !data) ? (
        <p className="quiet">{idle}</p>
      ) : error && !data ? (
        <p className="late">{problemOf(error)?.title}</p>
      ) : data ? (
        <Table aria-label="What one costs">
          <TableBody>
            {data.rows.map((row, index) => (
              <Line key={index} row={row} />
            ))}
          </TableBody>
          <TableFooter>
            <Sum name="Parts" many={data.parts} />
            <Sum name="Other costs" many={data.work} />
            {data.share === null || Number(data.share) === 100 ? null : (
              <TableRow>
                <TableCell colSpan={2} className="quiet">
                  {quantity(decimal(data.share).toFixed())} % of all it costs; the rest is what else comes of it.
                </TableCell>
              </TableRow>
            )}
            <Sum name="Made" many={data.made} strong />
            {data.own === null ? null : <Sum name="In stock, or bought" many={data.own} />}
            {data.own === null || data.made === null ? null : <Sum name="Made costs" many={decimal(data.made).minus(data.own).toFixed(4)} signed />}
            {data.unknown.length > 0 ? (
              <TableRow>
                <TableCell colSpan={2} className="late">
                  Nothing says what {data.unknown.join(', ')} {data.unknown.length === 1 ? 'costs' : 'cost'}: it is in this with nothing.
                </TableCell>
              </TableRow>
            ) : null}
          </TableFooter>
        </Table>
      ) : (
        <p className="quiet">One moment…</p>
      )}
    </Card>
  );
}

/** Shown to the cent; what is below one, as it is. */
const cents = (text: string): string =>
  text === '' ? price(text) : price(decimal(text).abs().gte('0.1') || decimal(text).isZero() ? decimal(text).toFixed(2) : decimal(text).toFixed());

const Line = ({ row }: { row: CostRow }) => (
  <TableRow>
    <TableCell sx={{ paddingLeft: 10 + (row.level - 1) * 14 }}>
      <span className="code">{row.sku}</span>{' '}
      <small className="quiet">
        {quantity(row.quantity)} {row.unit === 'each' ? '' : row.unit}
      </small>
      {row.made !== null && row.own !== null && row.made !== '' ? (
        <small className="quiet name">
          made at {cents(row.made)}, in stock {cents(row.own)}
        </small>
      ) : null}
    </TableCell>
    <TableCell align="right" className={row.level === 1 ? '' : 'quiet'}>
      {row.amount === null ? 'not known' : cents(row.amount)}
    </TableCell>
  </TableRow>
);

const Sum = ({ name, many, strong = false, signed = false }: { name: string; many: string | null; strong?: boolean; signed?: boolean }) => (
  <TableRow>
    <TableCell>{signed && many !== null ? `${name} ${Number(many) <= 0 ? 'less by' : 'more by'}` : name}</TableCell>
    <TableCell align="right" className={strong ? 'strong' : ''}>
      {many === null ? 'not known' : cents(signed ? decimal(many).abs().toFixed() : many)}
    </TableCell>
  </TableRow>
);
