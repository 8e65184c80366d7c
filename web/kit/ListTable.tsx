import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import { memo, useEffect, useMemo, useRef, type MouseEvent, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { asMade, idOf, useLaidOut, type ColumnLayout } from './columnLayout';
import { Card } from './layout';
import { useRowKeys } from './rows';
import { useSteady } from './steady';

export interface Column<T> {
  name: string;
  /** Sort key of the list, when it can be sorted by this column. */
  sort?: string;
  number?: boolean;
  wide?: boolean;
  cell: (row: T) => ReactNode;
  /** Stands in the heading instead of the name. */
  head?: ReactNode;
  /** What a row is found by when its first letters are typed; one column of a list has it. */
  text?: (row: T) => string;
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

interface ListTableProps<T> {
  label: string;
  columns: readonly Column<T>[];
  rows: readonly T[];
  keyOf: (row: T) => string | number;
  selected: number;
  select: (index: number) => void;
  open: (row: T) => void;
  sort?: { key: string; direction: 'up' | 'down'; change: (key: string) => void } | undefined;
  empty: ReactNode;
  choosing?: Choosing<T> | undefined;
  /** How the person has laid out the columns; without it they stand as they are given. */
  laying?: Laying | undefined;
}

const unlaid: Laying = { layout: asMade, change: () => undefined };

/** The list of list-and-peek: dense rows, numbers to the right, one row selected, several chosen where that is of use. */
export function ListTable<T>({ label, columns, rows, keyOf, selected, select, open, sort, empty, choosing, laying }: ListTableProps<T>) {
  const body = useRef<HTMLTableSectionElement>(null);
  const { layout, change } = laying ?? unlaid;
  const { table, shown, measure } = useLaidOut(rows, columns, layout, change);
  const choose = choosing && ((from: number, to: number, on: boolean) => choosing.set(rows.slice(Math.min(from, to), Math.max(from, to) + 1), on));
  const click = (index: number, withShift: boolean) => {
    if (withShift) choose?.(selected, index, true);
    select(index);
  };
  const [steadyKey, steadyClick, steadyOpen] = [useSteady(keyOf), useSteady(click), useSteady(open)];
  const does = useMemo<Does<T>>(() => ({ keyOf: steadyKey, click: steadyClick, open: steadyOpen }), [steadyKey, steadyClick, steadyOpen]);
  const named = columns.find(({ text }) => text !== undefined);
  useRowKeys({
    count: rows.length,
    selected,
    select,
    open: (index) => rows[index] && open(rows[index]),
    ...(named ? { beginning: (index: number) => (rows[index] === undefined ? '' : (named.text?.(rows[index]) ?? '')) } : {}),
    choose,
    isChosen: (index) => rows[index] !== undefined && (choosing?.has(rows[index]) ?? false),
  });
  useEffect(() => {
    body.current?.children[selected]?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  /** Columns are drawn as wide as what stands in them; dragging an edge begins with that. */
  const drag = (event: MouseEvent<HTMLElement>, id: string) => {
    const heads = [...(event.currentTarget.closest('tr')?.children ?? [])] as HTMLElement[];
    flushSync(() => measure(Object.fromEntries(shown.map((column, index) => [idOf(column), heads[index]?.offsetWidth ?? 150]))));
    table
      .getFlatHeaders()
      .find((header) => header.id === id)
      ?.getResizeHandler()(event);
  };
  if (rows.length === 0)
    return (
      <Card state component="div">
        {empty}
      </Card>
    );
  return (
    <Card component="div">
      <Table aria-label={label}>
        <TableHead>
          <TableRow>
            {shown.map((column) => (
              <TableCell
                key={column.name}
                align={column.number ? 'right' : 'left'}
                className={column.wide ? 'wide-only' : ''}
                aria-sort={sort && column.sort === sort.key ? (sort.direction === 'up' ? 'ascending' : 'descending') : undefined}
                sx={{ width: layout.widths[idOf(column)] ?? 'auto' }}
              >
                {column.sort && sort ? (
                  <TableSortLabel
                    active={column.sort === sort.key}
                    direction={sort.direction === 'up' ? 'asc' : 'desc'}
                    onClick={() => sort.change(column.sort as string)}
                  >
                    {column.name}
                  </TableSortLabel>
                ) : (
                  (column.head ?? column.name)
                )}
                {laying && column.name !== '' ? <Edge drag={(event) => drag(event, idOf(column))} /> : null}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody ref={body}>
          <Rows columns={shown} rows={rows} selected={selected} does={does} />
        </TableBody>
      </Table>
    </Card>
  );
}

/** The edge of a heading, which is dragged to make its column wider or narrower. */
const Edge = ({ drag }: { drag: (event: MouseEvent<HTMLElement>) => void }) => (
  <Box
    component="span"
    aria-hidden="true"
    onMouseDown={drag}
    sx={{
      position: 'absolute',
      top: '6px',
      bottom: '6px',
      right: '0px',
      width: 7,
      borderRight: 2,
      borderColor: 'transparent',
      cursor: 'col-resize',
      '&:hover': { borderColor: 'primary.main' },
    }}
  />
);

interface Does<T> {
  keyOf: ListTableProps<T>['keyOf'];
  click: (index: number, withShift: boolean) => void;
  open: ListTableProps<T>['open'];
}
interface RowsProps<T> {
  columns: readonly Column<T>[];
  rows: readonly T[];
  selected: number;
  does: Does<T>;
}

/** The rows are drawn anew only when they, their columns or what is selected change: not while the next answer is asked for. */
const Rows = memo(function Rows<T>({ columns, rows, selected, does }: RowsProps<T>) {
  return rows.map((row, index) => (
    <TableRow
      key={does.keyOf(row)}
      className="selectable"
      aria-selected={index === selected}
      onClick={(event) => does.click(index, event.shiftKey)}
      onDoubleClick={() => does.open(row)}
    >
      {columns.map((column) => (
        <TableCell key={column.name} align={column.number ? 'right' : 'left'} className={column.wide ? 'wide-only' : ''}>
          {column.cell(row)}
        </TableCell>
      ))}
    </TableRow>
  ));
}) as <T>(props: RowsProps<T>) => ReactNode;
