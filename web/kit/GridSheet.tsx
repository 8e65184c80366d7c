import type { ClipboardEvent, KeyboardEvent, ReactNode } from 'react';
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
    <div className="card sheet" tabIndex={-1}>
      <table aria-label={label} className="grid">
        <thead>
          <tr>
            <th>{headName}</th>
            {columns.map(({ key, name, number }) => (
              <th key={key} className={number ? 'number' : ''}>
                {name}
              </th>
            ))}
          </tr>
          <tr className="whole">
            <th>all rows</th>
            {columns.map(({ key, name, width, number }) => (
              <th key={key} className={number ? 'number' : ''}>
                <input
                  className={`plain ${number ? 'number' : ''}`}
                  style={{ width: width ?? 110 }}
                  aria-label={`${name} of all rows`}
                  placeholder="set all"
                  onChange={(event) => change(rows.map((row) => (off?.(row) ? row : { ...row, [key]: event.target.value })))}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            <tr key={index} className={off?.(row) ? 'off' : ''}>
              <td>{head(row, index)}</td>
              {columns.map(({ key, name, width, number }) => {
                const error = errorAt(index, key);
                return (
                  <td key={key} className={number ? 'number' : ''}>
                    <input
                      className={`plain ${number ? 'number' : ''}`}
                      style={{ width: width ?? 110 }}
                      data-cell={`${index} ${key}`}
                      aria-label={`${name} of row ${index + 1}`}
                      aria-invalid={error ? true : undefined}
                      title={error}
                      disabled={off?.(row)}
                      value={row[key] ?? ''}
                      onChange={(event) => put(index, key, event.target.value)}
                      onPaste={(event) => paste(event, index, key)}
                      onKeyDown={(event) => press(event, index, key)}
                    />
                    {error ? <small className="late cellerror">{error}</small> : null}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
