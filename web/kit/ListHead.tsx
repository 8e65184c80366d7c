import Box from '@mui/material/Box';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import type { Table } from '@tanstack/react-table';
import type { MouseEvent } from 'react';
import { flushSync } from 'react-dom';
import { idOf, type ColumnLayout } from './columnLayout';
import type { Column } from './ListTable';

export interface Sorting {
  key: string;
  direction: 'up' | 'down';
  change: (key: string) => void;
}

interface ListHeadProps<T> {
  columns: readonly Column<T>[];
  sort: Sorting | undefined;
  table: Table<T>;
  /** Told how wide the columns are drawn. */
  measure: (widths: Record<string, number>) => void;
  widths: ColumnLayout['widths'];
  /** Whether the columns can be made wider and narrower. */
  hasEdges: boolean;
}

/** The headings of a list: each sorts by its column where that can be, and its edge is dragged to make it wider. */
export function ListHead<T>({ columns, sort, table, measure, widths, hasEdges }: ListHeadProps<T>) {
  /** Columns are drawn as wide as what stands in them; dragging an edge begins with that. */
  const drag = (event: MouseEvent<HTMLElement>, id: string) => {
    const heads = [...(event.currentTarget.closest('tr')?.children ?? [])] as HTMLElement[];
    flushSync(() => measure(Object.fromEntries(columns.map((column, index) => [idOf(column), heads[index]?.offsetWidth ?? 150]))));
    table
      .getFlatHeaders()
      .find((header) => header.id === id)
      ?.getResizeHandler()(event);
  };
  return (
    <TableHead>
      <TableRow aria-rowindex={1}>
        {columns.map((column) => (
          <TableCell
            key={column.name}
            align={column.number ? 'right' : 'left'}
            className={column.wide ? 'wide-only' : ''}
            aria-sort={sort && column.sort === sort.key ? (sort.direction === 'up' ? 'ascending' : 'descending') : undefined}
            sx={{ width: widths[idOf(column)] ?? 'auto' }}
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
            {hasEdges && column.name !== '' ? <Edge drag={(event) => drag(event, idOf(column))} /> : null}
          </TableCell>
        ))}
      </TableRow>
    </TableHead>
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
