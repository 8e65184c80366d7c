import type { pickList } from '@larder/contract/picking';
import type { ResponseOf } from '@larder/contract/endpoint';
import { dayInWords } from '@larder/core/day';
import type { Act } from '../act';
import { barcodeOn } from './barcodes';
import { letterheadOf, letterTop, paperWordsOf, wordsOn } from './letterhead';
import { a4, bytesOf, facts, margin, table, type PaperColumn } from './paper';

/** Pick lists on A4, for who goes with a pencil: bin by bin as one walks, with room for what was taken. */

type Row = ResponseOf<typeof pickList>['rows'][number];

const millimetre = 72 / 25.4;
const columns = (forWhom: string) =>
  [
    { name: 'Bin', x: 50, width: 74, align: 'left' },
    { name: 'Item', x: 128, width: 96, align: 'left' },
    { name: 'What', x: 228, width: 148, align: 'left' },
    { name: forWhom, x: 380, width: 68, align: 'left' },
    { name: 'Take', x: 450, width: 46, align: 'right' },
    { name: 'Taken', x: 504, width: 42, align: 'right' },
  ] satisfies PaperColumn[];

export const pickRow = (row: Row, manySites: boolean, forWhom: string): string[] => [
  manySites ? `${row.site}\n${row.bin}` : row.bin,
  row.sku,
  [row.name, row.lot ?? '', row.useBy === null ? '' : `use by ${dayInWords(row.useBy)}`, row.doubtful ? 'count what is there' : ''].filter(Boolean).join('\n'),
  forWhom,
  `${row.take}${row.unit === 'each' ? '' : ` ${row.unit}`}`,
  '______',
];

export interface PickSheet {
  title: string;
  /** What is scanned to open the order. */
  code?: string;
  head: readonly (readonly [name: string, lines: readonly string[]])[];
  forWhom: string;
  rows: readonly string[][];
  missing: readonly string[];
}

/** Pick lists as one PDF, each beginning on a page of its own. */
export async function pickSheets(act: Act, sheets: readonly PickSheet[]): Promise<Buffer> {
  const [{ opening, closing }, letterhead] = [await paperWordsOf(act, 'pick list'), await letterheadOf(act)];
  const paper = a4(sheets.length === 1 ? (sheets[0]?.title ?? '') : 'Pick lists', letterhead.name);
  sheets.forEach(({ title, code, head, forWhom, rows, missing }, nth) => {
    if (nth > 0) paper.addPage();
    letterTop(paper, title, letterhead);
    const top = paper.y;
    let below = top + 44;
    for (const [index, [name, lines]] of head.entries()) {
      facts(paper, margin + index * 180, top, name, lines);
      below = Math.max(below, paper.y);
    }
    if (code !== undefined)
      barcodeOn(paper, { kind: 'code', symbology: 'code128', payload: code, x: 430 / millimetre, y: top / millimetre, width: 116 / millimetre, height: 10 });
    paper.y = below + 14;
    wordsOn(paper, opening);
    table(paper, columns(forWhom), rows);
    paper.moveDown(0.6);
    if (rows.length === 0) wordsOn(paper, 'Nothing of it can be picked now.');
    if (missing.length > 0) wordsOn(paper, `In no bin that may be picked from: ${missing.join(', ')}.`);
    wordsOn(paper, closing);
  });
  return bytesOf(paper);
}
