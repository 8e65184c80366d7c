/** Labels on a page, in millimetres. A roll is a page of one label. */
export interface Sheet {
  key: string;
  name: string;
  page: { width: number; height: number };
  label: { width: number; height: number };
  columns: number;
  rows: number;
  /** Of the first label's corner from the page's. */
  left: number;
  top: number;
  /** Between labels. */
  gapX: number;
  gapY: number;
}

const a4 = { width: 210, height: 297 };
const letter = { width: 215.9, height: 279.4 };
const roll = (width: number, height: number): Sheet => ({
  key: `roll-${width}x${height}`,
  name: `Roll, ${width} × ${height} mm`,
  page: { width, height },
  label: { width, height },
  columns: 1,
  rows: 1,
  left: 0,
  top: 0,
  gapX: 0,
  gapY: 0,
});
const centred = (
  paper: string,
  page: { width: number; height: number },
  columns: number,
  rows: number,
  label: { width: number; height: number },
  gapX = 0,
  gapY = 0,
): Sheet => ({
  key: `${paper.toLowerCase()}-${columns}x${rows}`,
  name: `${paper}, ${columns} × ${rows} of ${label.width} × ${label.height} mm`,
  page,
  label,
  columns,
  rows,
  left: round((page.width - columns * label.width - (columns - 1) * gapX) / 2),
  top: round((page.height - rows * label.height - (rows - 1) * gapY) / 2),
  gapX,
  gapY,
});
const round = (mm: number): number => Math.round(mm * 100) / 100;

/** Sheets and rolls that are common in the trade, by their measures. */
export const sheets: readonly Sheet[] = [
  centred('A4', a4, 3, 7, { width: 63.5, height: 38.1 }, 2.5),
  centred('A4', a4, 3, 8, { width: 70, height: 37 }),
  centred('A4', a4, 2, 7, { width: 99.1, height: 38.1 }, 2.5),
  centred('A4', a4, 4, 10, { width: 48.5, height: 25.4 }),
  centred('A4', a4, 5, 13, { width: 38.1, height: 21.2 }, 2.5),
  centred('A4', a4, 2, 4, { width: 99.1, height: 67.7 }, 2.5),
  centred('Letter', letter, 3, 10, { width: 66.7, height: 25.4 }, 3.2),
  centred('Letter', letter, 2, 5, { width: 101.6, height: 50.8 }, 4),
  centred('Letter', letter, 4, 15, { width: 44.5, height: 16.9 }, 7.1),
  roll(57, 32),
  roll(62, 29),
  roll(50, 25),
  roll(100, 50),
  roll(100, 150),
];

/** A sheet of one's own measures, or what is wrong with them. Everything in millimetres. */
export function ownSheet(given: Omit<Sheet, 'key' | 'name'>): Sheet | string {
  const { page, label, columns, rows, left, top, gapX, gapY } = given;
  if (label.width < 10 || label.height < 8) return 'A label is at least 10 by 8 mm.';
  if (columns < 1 || rows < 1 || columns * rows > 500) return 'Give 1 to 500 labels to a page.';
  if (left + columns * label.width + (columns - 1) * gapX > page.width + 0.05) return 'The labels are wider than the page.';
  if (top + rows * label.height + (rows - 1) * gapY > page.height + 0.05) return 'The labels are higher than the page.';
  return { key: 'own', name: 'Own size', ...given };
}

/** Where the n-th label lies (from 0) when the first used is at place `startAt` (from 1): its page, and its corner in millimetres. */
export function placeOnSheet(sheet: Sheet, n: number, startAt: number): { page: number; x: number; y: number } {
  const perPage = sheet.columns * sheet.rows;
  const at = n + startAt - 1;
  const onPage = at % perPage;
  return {
    page: Math.floor(at / perPage),
    x: round(sheet.left + (onPage % sheet.columns) * (sheet.label.width + sheet.gapX)),
    y: round(sheet.top + Math.floor(onPage / sheet.columns) * (sheet.label.height + sheet.gapY)),
  };
}
