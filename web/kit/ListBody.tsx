import TableBody from '@mui/material/TableBody';
import { useEffect, useMemo, useRef } from 'react';
import { Gap, InsideRow, ListRow, type Does } from './ListRows';
import type { Column, Opening } from './ListTable';
import { useVirtualRows } from './virtualRows';

/** What is drawn of a list: a row, or what is in it below. */
export interface Drawn {
  /** The row's place in the list. */
  index: number;
  isInside: boolean;
  key: string | number;
}

interface ListBodyProps<T> {
  columns: readonly Column<T>[];
  rows: readonly T[];
  drawn: readonly Drawn[];
  selected: number;
  isOpen: (index: number) => boolean;
  opening: Opening<T> | undefined;
  does: Omit<Does<T>, 'measure'>;
  /** Asks for the rows that follow these, where there are any. */
  more: (() => void) | undefined;
}

/** So many rows before the end those that follow are asked for. */
const ahead = 20;

/** The rows of a list, of which those in sight are drawn. While they are scrolled past nothing else of the list is drawn anew. */
export function ListBody<T>({ columns, rows, drawn, selected, isOpen, opening, does: { click, open, turn }, more }: ListBodyProps<T>) {
  const body = useRef<HTMLTableSectionElement>(null);
  const { items, below, measure, show } = useVirtualRows({ table: body, count: drawn.length, keyOf: (place) => drawn[place]?.key ?? place });
  const does = useMemo<Does<T>>(() => ({ click, open, turn, measure }), [click, open, turn, measure]);
  useEffect(() => show(drawn.findIndex(({ index }) => index === selected)), [selected]); // eslint-disable-line react-hooks/exhaustive-deps
  const end = items.at(-1)?.index ?? 0;
  const isNearEnd = drawn.length - end <= ahead || rows.length - selected <= ahead;
  useEffect(() => {
    if (isNearEnd) more?.();
  }, [isNearEnd, more]);
  return (
    <TableBody ref={body}>
      <Gap height={items[0]?.before ?? 0} span={columns.length} />
      {items.map(({ index: place }) => {
        const { index, isInside, key } = drawn[place] as Drawn;
        const row = rows[index] as T;
        return isInside && opening ? (
          <InsideRow key={key} row={row} at={place} span={columns.length} Inside={opening.Inside} measure={measure} />
        ) : (
          <ListRow
            key={key}
            row={row}
            index={index}
            at={place}
            columns={columns}
            isSelected={index === selected}
            isOpen={opening && (opening.holds?.(row) ?? true) ? isOpen(index) : undefined}
            does={does}
          />
        );
      })}
      <Gap height={below} span={columns.length} />
    </TableBody>
  );
}
