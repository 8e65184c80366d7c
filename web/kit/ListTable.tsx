import Table from '@mui/material/Table';
import TableCell from '@mui/material/TableCell';
import TableFooter from '@mui/material/TableFooter';
import TableRow from '@mui/material/TableRow';
import { useMemo, useState, type ComponentType, type ReactNode } from 'react';
import { asMade, useLaidOut, type ColumnLayout } from './columnLayout';
import { Card } from './layout';
import { ListBody, type Drawn } from './ListBody';
import { ListHead, type Sorting } from './ListHead';
import { useRowKeys } from './rows';
import { useSteady } from './steady';

export interface Column<T> {
  name: string;
  /** Sort key of the list, when it can be sorted by this column. */
  sort?: string;
  number?: boolean;
  wide?: boolean;
  /** Left out until somebody wants it. */
  apart?: boolean;
  cell: (row: T) => ReactNode;
  /** Stands in the heading instead of the name. */
  head?: ReactNode;
  /** What a row is known by, and found by when its first letters are typed; one column of a list has it. */
  text?: (row: T) => string;
  /** What all rows of the list come to, those that are not read yet too. */
  sum?: ReactNode;
}

/** Rows that are chosen to do something with them together. */
export interface Choosing<T> {
  has: (row: T) => boolean;
  set: (rows: readonly T[], on: boolean) => void;
}

export interface Laying {
  layout: ColumnLayout;
  change: (layout: ColumnLayout) => void;
}

/** Rows that can be opened in place. */
export interface Opening<T> {
  /** Which of them hold something; all where it is not said. */
  holds?: (row: T) => boolean;
  Inside: ComponentType<{ row: T }>;
}

export interface ListTableProps<T> {
  label: string;
  columns: readonly Column<T>[];
  rows: readonly T[];
  /** How many there are in all, when that is known. */
  count?: number | undefined;
  /** Asks for the rows that follow these, where there are any. */
  more?: (() => void) | undefined;
  keyOf: (row: T) => string | number;
  selected: number;
  select: (index: number) => void;
  open: (row: T) => void;
  sort?: Sorting | undefined;
  empty: ReactNode;
  choosing?: Choosing<T> | undefined;
  opening?: Opening<T> | undefined;
  /** How the person has laid out the columns; without it they stand as they are given. */
  laying?: Laying | undefined;
}

const unlaid: Laying = { layout: asMade, change: () => undefined };
/** The list of list-and-peek: dense rows of which those in sight are drawn, numbers to the right, one selected, several chosen where that is of use, opened in place. */
export function ListTable<T>(props: ListTableProps<T>) {
  return props.rows.length === 0 ? (
    <Card state component="div">
      {props.empty}
    </Card>
  ) : (
    <Filled {...props} />
  );
}

function Filled<T>({ label, columns, rows, count, more, keyOf, selected, select, open, sort, choosing, opening, laying }: ListTableProps<T>) {
  const { layout, change } = laying ?? unlaid;
  const { table, shown, measure } = useLaidOut(rows, columns, layout, change);
  const { drawn, isOpen, turn } = useOpened(rows, keyOf, opening !== undefined);
  const choose = choosing && ((from: number, to: number, on: boolean) => choosing.set(rows.slice(Math.min(from, to), Math.max(from, to) + 1), on));
  const click = (index: number, withShift: boolean) => {
    if (withShift) choose?.(selected, index, true);
    select(index);
  };
  const does = { click: useSteady(click), open: useSteady(open), turn: useSteady(turn) };
  const named = columns.find(({ text }) => text !== undefined);
  useRowKeys({
    count: rows.length,
    selected,
    select,
    open: (index) => rows[index] && open(rows[index]),
    ...(named ? { beginning: (index: number) => (rows[index] === undefined ? '' : (named.text?.(rows[index]) ?? '')) } : {}),
    choose,
    isChosen: (index) => rows[index] !== undefined && (choosing?.has(rows[index]) ?? false),
    ...(opening ? { turn: (index: number, on: boolean) => isOpen(index) !== on && (opening.holds?.(rows[index] as T) ?? true) && turn(index) } : {}),
  });
  return (
    <Card component="div">
      <Table aria-label={label} aria-rowcount={count === undefined ? -1 : count + 1}>
        <ListHead columns={shown} sort={sort} table={table} measure={measure} widths={layout.widths} hasEdges={laying !== undefined} />
        <ListBody columns={shown} rows={rows} drawn={drawn} selected={selected} isOpen={isOpen} opening={opening} does={does} more={more} />
        <Summed columns={shown} />
      </Table>
    </Card>
  );
}

/** Which rows are open in place, and all that is drawn: the rows, each with what is in it below where it is open. */
function useOpened<T>(rows: readonly T[], keyOf: (row: T) => string | number, can: boolean) {
  const [opened, setOpened] = useState<ReadonlySet<string | number>>(new Set());
  const steadyKey = useSteady(keyOf);
  const drawn = useMemo(
    () =>
      rows.flatMap((row, index): Drawn[] => {
        const key = steadyKey(row);
        const line = { index, isInside: false, key };
        return can && opened.has(key) ? [line, { index, isInside: true, key: `in ${key}` }] : [line];
      }),
    [rows, opened, can, steadyKey],
  );
  const isOpen = (index: number) => rows[index] !== undefined && opened.has(keyOf(rows[index]));
  return {
    drawn,
    isOpen,
    turn: (index: number) => {
      const key = rows[index] === undefined ? null : keyOf(rows[index]);
      if (key !== null) setOpened((were) => (were.has(key) ? new Set([...were].filter((one) => one !== key)) : new Set([...were, key])));
    },
  };
}

/** What the list comes to, column by column; nothing where no column says. */
function Summed<T>({ columns }: { columns: readonly Column<T>[] }) {
  if (columns.every(({ sum }) => sum === undefined)) return null;
  return (
    <TableFooter
      sx={{
        '& .MuiTableCell-root': { position: 'sticky', bottom: 0, zIndex: 1, bgcolor: 'background.paper', boxShadow: 'inset 0 1px 0 var(--rule)' },
        '& td:first-of-type': { borderBottomLeftRadius: 10 },
        '& td:last-of-type': { borderBottomRightRadius: 10 },
      }}
    >
      <TableRow>
        {columns.map((column) => (
          <TableCell key={column.name} align={column.number ? 'right' : 'left'} className={column.wide ? 'wide-only' : ''}>
            {column.sum}
          </TableCell>
        ))}
      </TableRow>
    </TableFooter>
  );
}
