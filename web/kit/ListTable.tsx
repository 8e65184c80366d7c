import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableSortLabel from '@mui/material/TableSortLabel';
import TableRow from '@mui/material/TableRow';
import { Card } from './layout';
import { memo, useEffect, useMemo, useRef, type ReactNode } from 'react';
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
}

/** The list of list-and-peek: dense rows, numbers to the right, one row selected. */
export function ListTable<T>({ label, columns, rows, keyOf, selected, select, open, sort, empty }: ListTableProps<T>) {
  const body = useRef<HTMLTableSectionElement>(null);
  const [steadyKey, steadySelect, steadyOpen] = [useSteady(keyOf), useSteady(select), useSteady(open)];
  const does = useMemo<Does<T>>(() => ({ keyOf: steadyKey, select: steadySelect, open: steadyOpen }), [steadyKey, steadySelect, steadyOpen]);
  useRowKeys({ count: rows.length, selected, select, open: (index) => rows[index] && open(rows[index]) });
  useEffect(() => {
    body.current?.children[selected]?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
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
            {columns.map((column) => (
              <TableCell
                key={column.name}
                align={column.number ? 'right' : 'left'}
                className={column.wide ? 'wide-only' : ''}
                aria-sort={sort && column.sort === sort.key ? (sort.direction === 'up' ? 'ascending' : 'descending') : undefined}
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
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody ref={body}>
          <Rows columns={columns} rows={rows} selected={selected} does={does} />
        </TableBody>
      </Table>
    </Card>
  );
}

type Does<T> = Pick<ListTableProps<T>, 'keyOf' | 'select' | 'open'>;
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
      onClick={() => does.select(index)}
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
