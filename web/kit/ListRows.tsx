import ExpandMoreIcon from '@mui/icons-material/ExpandMore';
import IconButton from '@mui/material/IconButton';
import { styled } from '@mui/material/styles';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { memo, type ReactNode } from 'react';
import { phone } from './layout';
import type { Column, Opening } from './ListTable';

/** What can be done with rows. */
export interface Does<T> {
  click: (index: number, withShift: boolean) => void;
  open: (row: T) => void;
  /** Opens a row in place, or closes it. */
  turn: (index: number) => void;
  /** Told the element of what is drawn at a place, to know how high it is. */
  measure: (element: HTMLElement | null) => void;
}

interface ListRowProps<T> {
  row: T;
  /** Its place in the list. */
  index: number;
  /** Its place in what is drawn. */
  at: number;
  columns: readonly Column<T>[];
  isSelected: boolean;
  /** Whether it is open in place; undefined where rows are not. */
  isOpen: boolean | undefined;
  does: Does<T>;
}

/** A row is drawn anew only when it, its columns or whether it is selected change: not while others are scrolled past, or the next answer is asked for. */
export const ListRow = memo(function ListRow<T>({ row, index, at, columns, isSelected, isOpen, does }: ListRowProps<T>) {
  const known = columns.find(({ text }) => text !== undefined);
  return (
    <TableRow
      className="selectable"
      aria-selected={isSelected}
      aria-rowindex={index + 2}
      data-index={at}
      ref={does.measure}
      onClick={(event) => does.click(index, event.shiftKey)}
      onDoubleClick={() => does.open(row)}
    >
      {columns.map((column) => (
        <TableCell key={column.name} align={column.number ? 'right' : 'left'} className={column.wide ? 'wide-only' : ''}>
          {isOpen !== undefined && column === known ? (
            <Known>
              <Turn name={known.text?.(row) ?? ''} isOpen={isOpen} turn={() => does.turn(index)} />
              <div>{column.cell(row)}</div>
            </Known>
          ) : (
            column.cell(row)
          )}
        </TableCell>
      ))}
    </TableRow>
  );
}) as <T>(props: ListRowProps<T>) => ReactNode;

/** Opens a row in place, or closes it, as the right and left arrow keys do; so the focus does not come to it, and the keys go on moving by row. */
const Turn = ({ name, isOpen, turn }: { name: string; isOpen: boolean; turn: () => void }) => (
  <TurnButton
    size="small"
    aria-label={`What is in ${name}`}
    aria-expanded={isOpen}
    tabIndex={-1}
    onMouseDown={(event) => event.preventDefault()}
    onClick={(event) => {
      event.stopPropagation();
      turn();
    }}
    onDoubleClick={(event) => event.stopPropagation()}
  >
    <ExpandMoreIcon fontSize="small" />
  </TurnButton>
);
// What stands in each row has a style that is made once.
const Known = styled('div')({ display: 'flex', alignItems: 'center', gap: '6px', marginLeft: '-6px' });
const TurnButton = styled(IconButton)({
  padding: '3px',
  '&[aria-expanded="false"] svg': { transform: 'rotate(-90deg)' },
  [phone]: { width: 44, height: 44, margin: '-8px -8px -8px -12px' },
});

interface InsideRowProps<T> {
  row: T;
  at: number;
  span: number;
  Inside: Opening<T>['Inside'];
  measure: Does<T>['measure'];
}

/** What is in a row that is open in place. */
export const InsideRow = memo(function InsideRow<T>({ row, at, span, Inside, measure }: InsideRowProps<T>) {
  return (
    <TableRow data-index={at} ref={measure}>
      <TableCell colSpan={span} sx={{ padding: '0 10px 8px 40px' }}>
        <Inside row={row} />
      </TableCell>
    </TableRow>
  );
}) as <T>(props: InsideRowProps<T>) => ReactNode;

/** As high as the rows that are not drawn, in pixels. */
export const Gap = ({ height, span }: { height: number; span: number }) =>
  height > 0 ? (
    <TableRow aria-hidden="true">
      <TableCell colSpan={span} style={{ height, padding: 0, border: 0 }} />
    </TableRow>
  ) : null;
