import { getCoreRowModel, useReactTable, type ColumnDef, type ColumnSizingState, type Table } from '@tanstack/react-table';
import { useMemo, useState } from 'react';

/** How somebody has laid out the columns of a list, which are named as their headings say. */
export interface ColumnLayout {
  hidden: string[];
  /** Of the columns that are left out at first: those that are shown. */
  shown: string[];
  /** Columns that are not named here stand where they would without. */
  order: string[];
  /** In pixels, of columns that were given a width. */
  widths: Record<string, number>;
}
export const asMade: ColumnLayout = { hidden: [], shown: [], order: [], widths: {} };
export const narrowest = 40;
export const widest = 900;

interface Named {
  name: string;
  /** The column a row is known by has it. */
  text?: unknown;
  /** Left out until somebody wants it. */
  apart?: boolean | undefined;
}

/** Whether a column is shown: most are unless they were hidden, some are only once they were asked for. */
export const isShown = ({ name, apart }: Named, { hidden, shown }: Pick<ColumnLayout, 'hidden' | 'shown'>): boolean =>
  apart ? shown.includes(name) : !hidden.includes(name);

/** The layout with a column shown that was not, or the other way round. */
export function toggled(column: Named, layout: ColumnLayout): ColumnLayout {
  const of = column.apart ? 'shown' : 'hidden';
  const { name } = column;
  return { ...layout, [of]: layout[of].includes(name) ? layout[of].filter((one) => one !== name) : [...layout[of], name] };
}

/** A column without a name is a sign in front; it has no heading to be called by. */
export const idOf = ({ name }: Named): string => (name === '' ? 'sign' : name);

/** Columns that can be hidden and moved: those behind the one a row is known by, which is the first that is named where none says so; signs stay. */
export function movable<C extends Named>(columns: readonly C[]): C[] {
  const known = columns.findIndex(({ text }) => text !== undefined);
  const last = known >= 0 ? known : columns.findIndex(({ name }) => name !== '');
  return columns.filter((column, index) => column.name !== '' && index > last);
}

/** All columns in the order they stand: as laid out, and those that the layout does not know where they would be without it. */
export function ordered<C extends Named>(columns: readonly C[], { order }: ColumnLayout): C[] {
  const moves = new Set(movable(columns));
  const known = order.flatMap((name) => columns.filter((column) => moves.has(column) && column.name === name));
  const rest = columns.filter((column) => !known.includes(column));
  const at = (column: C) => columns.indexOf(column);
  return rest.reduce<C[]>((line, column) => {
    const before = line.findLastIndex((one) => !known.includes(one) && at(one) < at(column));
    const place = moves.has(column) ? Math.max(before + 1, Math.min(at(column), line.length)) : before + 1;
    return [...line.slice(0, place), column, ...line.slice(place)];
  }, known);
}

/** The layout after a column was moved by so many places among those that move. */
export function moved(columns: readonly Named[], layout: ColumnLayout, name: string, by: number): ColumnLayout {
  const names = movable(ordered(columns, layout)).map((column) => column.name);
  const from = names.indexOf(name);
  const rest = names.filter((one) => one !== name);
  const to = Math.max(0, Math.min(from + by, rest.length));
  return { ...layout, order: [...rest.slice(0, to), name, ...rest.slice(to)] };
}

/** A table that keeps to a layout and tells when a column was given another width by dragging its edge. */
export function useLaidOut<T, C extends Named>(
  rows: readonly T[],
  columns: readonly C[],
  layout: ColumnLayout,
  change: (layout: ColumnLayout) => void,
): { table: Table<T>; shown: C[]; measure: (widths: Record<string, number>) => void } {
  /** As wide as the columns were drawn when the edge of one was taken. */
  const [drawn, measure] = useState<Record<string, number>>({});
  const line = useMemo(() => ordered(columns, layout), [columns, layout]);
  const defs = useMemo<ColumnDef<T>[]>(
    () => columns.map((column) => ({ id: idOf(column), size: drawn[idOf(column)] ?? 150, minSize: narrowest, maxSize: widest })),
    [columns, drawn],
  );
  const columnSizing: ColumnSizingState = layout.widths;
  const [columnOrder, columnVisibility] = useMemo(
    () => [line.map(idOf), Object.fromEntries(line.map((column) => [idOf(column), isShown(column, layout)]))] as const,
    [line, layout],
  );
  const table = useReactTable<T>({
    data: rows as T[],
    columns: defs,
    getCoreRowModel: getCoreRowModel(),
    columnResizeMode: 'onEnd',
    state: { columnSizing, columnOrder, columnVisibility },
    onColumnSizingChange: (update) => {
      const widths = typeof update === 'function' ? update(columnSizing) : update;
      change({ ...layout, widths: Object.fromEntries(Object.entries(widths).map(([name, width]) => [name, Math.round(width)])) });
    },
  });
  const visible = table.getVisibleLeafColumns();
  // The same columns again while nothing about them changed: rows are drawn anew only for others.
  const shown = useMemo(() => visible.flatMap(({ id }) => columns.filter((column) => idOf(column) === id)), [visible, columns]);
  return { table, shown, measure };
}
