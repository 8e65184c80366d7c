import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { CellField } from './CellField';
import { Card } from './layout';
import { useState, type ClipboardEvent, type KeyboardEvent, type ReactNode } from 'react';
import { blockOf, fillDown, pasteBlock, type GridRow } from './pasteBlock';

export interface GridColumn {
  key: string;
  name: string;
  width?: number;
  number?: boolean;
}

interface GridSheetProps<R extends GridRow> {
  label: string;
  columns: readonly GridColumn[];
  rows: readonly R[];
  change: (rows: R[]) => void;
  /** In front of each row: what it is. */
  head: (row: R, index: number) => ReactNode;
  headName: string;
  errorAt: (row: number, key: string) => string | undefined;
  /** Rows that are switched off are dimmed and cannot be written. */
  off?: (row: R) => boolean;
}

/** A sheet of cells: a block pasted from a spreadsheet fills from the cell on, Ctrl D fills down, the field on top of a column sets it whole. */
export function GridSheet<R extends GridRow>({ label, columns, rows, change, head, headName, errorAt, off }: GridSheetProps<R>) {
  const keys = columns.map(({ key }) => key);
  const put = (row: number, key: string, value: string) => change(rows.map((one, index) => (index === row ? { ...one, [key]: value } : one)));
  const paste = (event: ClipboardEvent, row: number, key: string) => {
    const block = blockOf(event.clipboardData.getData('text'));
    if (!block) return;
    event.preventDefault();
    change(pasteBlock(rows, keys, { row, key }, block));
  };
  const press = (event: KeyboardEvent, row: number, key: string) => {
    const move = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (event.ctrlKey && event.key.toLowerCase() === 'd') change(fillDown(rows, { row, key }));
    else if (move) document.querySelector<HTMLInputElement>(`[data-cell="${row + move} ${key}"]`)?.focus();
    else return;
    event.preventDefault();
  };
  return (
    <Card sheet component="div" tabIndex={-1}>
      <Table aria-label={label} size="grid">
        <TableHead>
          <TableRow>
            <TableCell>{headName}</TableCell>
            {columns.map(({ key, name, number }) => (
              <TableCell key={key} align={number ? 'right' : 'left'}>
                {name}
              </TableCell>
            ))}
          </TableRow>
          <TableRow className="whole">
            <TableCell>all rows</TableCell>
            {columns.map(({ key, name, width, number }) => (
              <TableCell key={key} align={number ? 'right' : 'left'}>
                <SetAll
                  label={`${name} of all rows`}
                  number={number}
                  width={width ?? 110}
                  onChange={(typed) => change(rows.map((row) => (off?.(row) ? row : { ...row, [key]: typed })))}
                />
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row, index) => (
            <TableRow key={index} className={off?.(row) ? 'off' : ''}>
              <TableCell>{head(row, index)}</TableCell>
              {columns.map(({ key, name, width, number }) => {
                const error = errorAt(index, key);
                return (
                  <TableCell key={key} align={number ? 'right' : 'left'}>
                    <CellField
                      label={`${name} of row ${index + 1}`}
                      cell={`${index} ${key}`}
                      number={number}
                      width={width ?? 110}
                      error={error}
                      disabled={off?.(row)}
                      value={String(row[key] ?? '')}
                      onChange={(typed) => put(index, key, typed)}
                      onPaste={(event) => paste(event, index, key)}
                      onKeyDown={(event) => press(event, index, key)}
                    />
                  </TableCell>
                );
              })}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Card>
  );
}

/** The field on top of a column: what is typed goes into every row. */
function SetAll({ label, number, width, onChange }: { label: string; number: boolean | undefined; width: number; onChange: (typed: string) => void }) {
  const [typed, setTyped] = useState('');
  return (
    <CellField
      label={label}
      number={number}
      width={width}
      placeholder="set all"
      value={typed}
      onChange={(text) => {
        setTyped(text);
        onChange(text);
      }}
    />
  );
}
