import Box from '@mui/material/Box';
import type { PastRow, StockRow } from '@larder/contract/stock';
import { Link } from 'react-router';
import { CellCheck } from '../../kit/Check';
import { money, price, quantity, shortDay } from '../../kit/format';
import { Jar } from '../../kit/Jar';
import type { Column } from '../../kit/ListTable';
import { alsoAsOf } from '../../shared/AsOf';
import { ExplainedFigure, type Figure } from '../../shared/explaining';

/** Columns that tell what stock costs. */
export const costly: readonly string[] = ['unitCost', 'value'];

/** Which item a row is of. */
const itemColumn: Column<Pick<StockRow, 'sku' | 'name'>> = {
  name: 'Item',
  sort: 'sku',
  text: (row) => row.sku,
  cell: (row) => (
    <>
      <span className="code">{row.sku}</span>
      <span className="name">{row.name}</span>
    </>
  ),
};

/** A figure that is left blank where there is none, and leads to what makes it. */
const figure = (text: string, to: string, quiet = false) =>
  Number(text) === 0 ? (
    ''
  ) : (
    <Link className={quiet ? 'figure quiet' : 'figure'} to={to}>
      {quantity(text)}
    </Link>
  );

/** One that is explained when it is pressed. */
const told = (row: { itemId: number }, name: Figure, text: string, className = 'figure', blank = true) =>
  blank && Number(text) === 0 ? (
    ''
  ) : (
    <ExplainedFigure itemId={row.itemId} figure={name} className={className}>
      {quantity(text)}
    </ExplainedFigure>
  );

interface StockColumns {
  siteId: number | undefined;
  today: string;
  /** What all of them are worth together. */
  worth: string | undefined;
  chosen: readonly number[];
  toggle: (itemId: number) => void;
}

/** The columns of the stock table as it stands now. */
export function stockColumns({ siteId, today, worth, chosen, toggle }: StockColumns): Column<StockRow>[] {
  const lentOf = (row: StockRow) => `/stock/loans?item=${row.itemId}&only=${encodeURIComponent(row.sku)}`;
  const trail = (row: StockRow) => `/stock/trail?item=${row.itemId}${siteId === undefined ? '' : `&site=${siteId}`}`;
  return [
    {
      name: '',
      cell: (row) => (
        <Box component="span" sx={{ display: 'flex', alignItems: 'center' }}>
          <span className="wide-only">
            <CellCheck label={`Choose ${row.sku}`} checked={chosen.includes(row.itemId)} onChange={() => toggle(row.itemId)} />
          </span>
          <Jar free={row.free} reorderPoint={row.reorderPoint} orderUpTo={row.orderUpTo} />
        </Box>
      ),
    },
    itemColumn,
    { name: 'On hand', sort: 'onHand', number: true, cell: (row) => told(row, 'onHand', row.onHand) },
    { name: 'Reserved', sort: 'reserved', number: true, wide: true, cell: (row) => told(row, 'reserved', row.reserved, 'figure quiet') },
    { name: 'Free', sort: 'free', number: true, cell: (row) => told(row, 'free', row.free, 'figure strong', false) },
    { name: 'Short', sort: 'short', number: true, wide: true, apart: true, cell: (row) => told(row, 'short', row.short, 'figure late') },
    { name: 'On order', sort: 'onOrder', number: true, wide: true, cell: (row) => told(row, 'onOrder', row.onOrder, 'figure quiet') },
    { name: 'In transit', sort: 'inTransit', number: true, wide: true, cell: (row) => told(row, 'inTransit', row.inTransit) },
    { name: 'On loan', sort: 'onLoan', number: true, wide: true, apart: true, cell: (row) => figure(row.onLoan, lentOf(row)) },
    { name: 'Quarantine', sort: 'quarantine', number: true, wide: true, apart: true, cell: (row) => figure(row.quarantine, trail(row)) },
    {
      name: 'Days of cover',
      number: true,
      wide: true,
      apart: true,
      cell: (row) => (row.daysOfCover === null ? '' : <span className="quiet">{quantity(String(Math.max(0, Math.floor(row.daysOfCover))))}</span>),
    },
    {
      name: 'Last counted',
      sort: 'countedOn',
      wide: true,
      apart: true,
      cell: (row) => <span className="quiet">{row.countedOn === null ? 'never' : shortDay(row.countedOn, today)}</span>,
    },
    {
      name: 'Unit cost',
      sort: 'unitCost',
      number: true,
      wide: true,
      cell: (row) => (
        <ExplainedFigure itemId={row.itemId} figure="unitCost">
          {price(row.unitCost)}
        </ExplainedFigure>
      ),
    },
    {
      name: 'Value',
      sort: 'value',
      number: true,
      wide: true,
      cell: (row) => (
        <ExplainedFigure itemId={row.itemId} figure="value">
          {money(row.value)}
        </ExplainedFigure>
      ),
      sum: worth && money(worth),
    },
  ];
}

/** The columns of the stock table as it stood at the end of a day. */
export function pastColumns({ siteId, asOf, worth }: { siteId: number | undefined; asOf: string; worth: string | undefined }): Column<PastRow>[] {
  const trail = (row: PastRow, measure = '') => `/stock/trail?item=${row.itemId}${siteId === undefined ? '' : `&site=${siteId}`}${measure}&until=${asOf}`;
  const page = (row: PastRow) => `/items/${row.itemId}${alsoAsOf(asOf)}`;
  return [
    itemColumn,
    { name: 'On hand', sort: 'onHand', number: true, cell: (row) => <b>{figure(row.onHand, trail(row, '&measure=on-hand'))}</b> },
    { name: 'Picked', number: true, wide: true, cell: (row) => figure(row.bench, trail(row, '&measure=bench'), true) },
    { name: 'In transit', sort: 'inTransit', number: true, wide: true, cell: (row) => figure(row.inTransit, trail(row), true) },
    { name: 'On loan', sort: 'onLoan', number: true, wide: true, apart: true, cell: (row) => figure(row.onLoan, trail(row)) },
    { name: 'Quarantine', sort: 'quarantine', number: true, wide: true, apart: true, cell: (row) => figure(row.quarantine, page(row)) },
    { name: 'Unit cost', sort: 'unitCost', number: true, wide: true, cell: (row) => (Number(row.unitCost) === 0 ? '' : price(row.unitCost)) },
    {
      name: 'Value',
      sort: 'value',
      number: true,
      wide: true,
      cell: (row) =>
        row.value === '' || Number(row.value) !== 0 ? (
          <Link className="figure" to={trail(row)}>
            {money(row.value)}
          </Link>
        ) : (
          ''
        ),
      sum: worth && money(worth),
    },
  ];
}
