import { useEffect, useRef, type ReactNode } from 'react';
import { useRowKeys } from './rows';

export interface Column<T> {
  name: string;
  /** Sort key of the list, when it can be sorted by this column. */
  sort?: string;
  number?: boolean;
  wide?: boolean;
  cell: (row: T) => ReactNode;
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
  useRowKeys({ count: rows.length, selected, select, open: (index) => rows[index] && open(rows[index]) });
  useEffect(() => {
    body.current?.children[selected]?.scrollIntoView({ block: 'nearest' });
  }, [selected]);
  if (rows.length === 0) return <div className="card state">{empty}</div>;
  return (
    <div className="card">
      <table aria-label={label}>
        <thead>
          <tr>
            {columns.map((column) => (
              <th
                key={column.name}
                className={`${column.number ? 'number' : ''} ${column.wide ? 'wide-only' : ''}`}
                aria-sort={sort && column.sort === sort.key ? (sort.direction === 'up' ? 'ascending' : 'descending') : undefined}
              >
                {column.sort && sort ? (
                  <button type="button" onClick={() => sort.change(column.sort as string)}>
                    {column.name}
                    {column.sort === sort.key ? (sort.direction === 'up' ? ' ↑' : ' ↓') : ''}
                  </button>
                ) : (
                  column.name
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody ref={body}>
          {rows.map((row, index) => (
            <tr key={keyOf(row)} className="selectable" aria-selected={index === selected} onClick={() => select(index)} onDoubleClick={() => open(row)}>
              {columns.map((column) => (
                <td key={column.name} className={`${column.number ? 'number' : ''} ${column.wide ? 'wide-only' : ''}`}>
                  {column.cell(row)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
