import type * as contract from '@larder/contract/picking';
import type { FileAnswer, ResponseOf } from '@larder/contract/endpoint';
import { dayInWords } from '@larder/core/day';
import type { Act } from '../../act';
import { barcodeOn } from '../../documents/barcodes';
import { letterheadOf, letterPaper, paperWordsOf, wordsOn } from '../../documents/letterhead';
import { bytesOf, facts, margin, table, type PaperColumn } from '../../documents/paper';
import { pickList } from './pickList';
import { sale } from './queries';
import { getRound } from './rounds';

/** Pick lists on A4, for who goes with a pencil: bin by bin as one walks, with room for what was taken. */

type Row = ResponseOf<typeof contract.pickList>['rows'][number];

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

const rowOf = (row: Row, manySites: boolean, forWhom: string): string[] => [
  manySites ? `${row.site}\n${row.bin}` : row.bin,
  row.sku,
  [row.name, row.lot ?? '', row.useBy === null ? '' : `use by ${dayInWords(row.useBy)}`, row.doubtful ? 'count what is there' : ''].filter(Boolean).join('\n'),
  forWhom,
  `${row.take}${row.unit === 'each' ? '' : ` ${row.unit}`}`,
  '______',
];

interface Sheet {
  title: string;
  /** What is scanned to open the order. */
  code?: string;
  head: readonly (readonly [name: string, lines: readonly string[]])[];
  forWhom: string;
  rows: readonly string[][];
  missing: readonly string[];
}

async function sheet(act: Act, { title, code, head, forWhom, rows, missing }: Sheet): Promise<Buffer> {
  const { opening, closing } = await paperWordsOf(act, 'pick list');
  const paper = letterPaper(title, await letterheadOf(act));
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
  return bytesOf(paper);
}

/** What to take from which bin for an order. */
export async function pickPaper(act: Act, id: number): Promise<FileAnswer> {
  const { rows, missing } = await pickList(act, id);
  const order = await sale(act, id);
  const manySites = new Set(rows.map(({ siteId }) => siteId)).size > 1;
  const bytes = await sheet(act, {
    title: `Pick list ${order.number}`,
    code: order.number,
    head: [
      ['For', [order.customer, order.reference === '' ? '' : `their order ${order.reference}`]],
      ['Ships by', [dayInWords(order.shipBy), order.whole ? 'whole, not in parts' : '']],
    ],
    forWhom: 'Line',
    rows: rows.map((row) => rowOf(row, manySites, String(order.lines.find((line) => line.id === row.lineId)?.position ?? ''))),
    missing: missing.map(({ sku, quantity }) => `${quantity} ${sku}`),
  });
  return { type: 'application/pdf', name: `pick list ${order.number}.pdf`, bytes };
}

/** What to take from which bin for the orders of a round, each into its slot. */
export async function roundPaper(act: Act, id: number): Promise<FileAnswer> {
  const round = await getRound(act, id);
  const bytes = await sheet(act, {
    title: `Pick list of round ${id}`,
    head: [
      ['Picked by', [round.picker, round.site]],
      ['Slots', round.slots.map(({ slot, number }) => `${slot}  ${number}`)],
    ],
    forWhom: 'Into slot',
    rows: round.rows.map((row) => rowOf(row, false, `${row.slot}  ${row.number}`)),
    missing: round.missing.map(({ sku, quantity, number }) => `${quantity} ${sku} of ${number}`),
  });
  return { type: 'application/pdf', name: `pick list of round ${id}.pdf`, bytes };
}
