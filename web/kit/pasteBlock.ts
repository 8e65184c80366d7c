/** Rows of a grid of texts. */
export type GridRow = Record<string, string>;

/** A block copied from a spreadsheet: lines of cells apart by tabs. One cell alone is no block. */
export function blockOf(text: string): string[][] | null {
  const lines = text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n');
  return lines.length === 1 && !text.includes('\t') ? null : lines.map((line) => line.split('\t').map((cell) => cell.trim()));
}

/** The rows with a block laid over them from a cell on; what would lie beyond the grid is left away. */
export const pasteBlock = <R extends GridRow>(rows: readonly R[], keys: readonly string[], at: { row: number; key: string }, block: readonly string[][]): R[] =>
  rows.map((row, index) => {
    const cells = block[index - at.row];
    if (!cells) return row;
    const from = keys.indexOf(at.key);
    return { ...row, ...Object.fromEntries(cells.flatMap((cell, n) => (keys[from + n] === undefined ? [] : [[keys[from + n] as string, cell]]))) };
  });

/** The rows with a cell's text in all rows below it too. */
export const fillDown = <R extends GridRow>(rows: readonly R[], at: { row: number; key: string }): R[] =>
  rows.map((row, index) => (index <= at.row ? row : { ...row, [at.key]: rows[at.row]?.[at.key] ?? '' }));
