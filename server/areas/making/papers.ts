import type { WorkOrder } from '@larder/contract/workOrders';
import type { FileAnswer } from '@larder/contract/endpoint';
import { dayInWords } from '@larder/core/day';
import { quantityText, decimal } from '@larder/core/decimal';
import type { Act } from '../../act';
import { barcodeOn } from '../../documents/barcodes';
import { letterheadOf, letterTop, paperWordsOf, wordsOn } from '../../documents/letterhead';
import { a4, bytesOf, facts, margin, table, type PaperColumn } from '../../documents/paper';
import { pickRow, pickSheets } from '../../documents/pickPaper';
import { getWorkOrder } from './orderQueries';
import { workPickList } from './taking';

const millimetre = 72 / 25.4;
const blank = '______';
const unitOf = (unit: string): string => (unit === 'each' ? '' : ` ${unit}`);

const taking = [
  { name: 'Bin', x: 50, width: 70, align: 'left' },
  { name: 'Item', x: 124, width: 96, align: 'left' },
  { name: 'What', x: 224, width: 150, align: 'left' },
  { name: 'Take', x: 378, width: 54, align: 'right' },
  { name: 'Taken', x: 438, width: 48, align: 'right' },
  { name: 'Really used', x: 490, width: 56, align: 'right' },
] satisfies PaperColumn[];
const making = [
  { name: 'What is made', x: 50, width: 270, align: 'left' },
  { name: 'To make', x: 326, width: 50, align: 'right' },
  { name: 'Good', x: 384, width: 48, align: 'right' },
  { name: 'Scrapped', x: 438, width: 48, align: 'right' },
  { name: 'Into bin', x: 490, width: 56, align: 'right' },
] satisfies PaperColumn[];
const working = [
  { name: 'Hours and other costs', x: 50, width: 270, align: 'left' },
  { name: 'Planned', x: 326, width: 106, align: 'right' },
  { name: 'Really', x: 490, width: 56, align: 'right' },
] satisfies PaperColumn[];

/** Job sheets on A4, each on pages of its own: what to take from which bin, what to do, step by step, and blanks for what was really used and made. The code on it opens the order. */
export async function jobSheets(act: Act, ids: readonly number[]): Promise<FileAnswer> {
  const [words, letterhead] = [await paperWordsOf(act, 'job sheet'), await letterheadOf(act)];
  const orders = await inTurn(ids, async (id) => ({ one: await getWorkOrder(act, id), rows: (await workPickList(act, id)).rows }));
  const name = orders.length === 1 ? `Job sheet ${orders[0]?.one.number ?? ''}` : 'Job sheets';
  const paper = a4(name, letterhead.name);
  for (const [nth, order] of orders.entries()) {
    if (nth > 0) paper.addPage();
    letterTop(paper, `Job sheet ${order.one.number}`, letterhead);
    sheetOn(paper, order, words);
  }
  return { type: 'application/pdf', name: `${name.replace('Job', 'job')}.pdf`, bytes: await bytesOf(paper) };
}

interface Ordered {
  one: WorkOrder;
  rows: Picks;
}

function sheetOn(paper: PDFKit.PDFDocument, { one, rows }: Ordered, { opening, closing }: { opening: string; closing: string }): void {
  const top = paper.y;
  facts(paper, margin, top, 'Make', [`${one.quantity}${unitOf(one.unit)} ${one.sku}`, one.name]);
  facts(paper, margin + 190, top, 'At', [one.site, one.sale ? `for ${one.sale.number}` : '']);
  facts(paper, margin + 300, top, 'Due', [dayInWords(one.dueOn)]);
  barcodeOn(paper, { kind: 'code', symbology: 'code128', payload: one.number, x: 430 / millimetre, y: top / millimetre, width: 116 / millimetre, height: 10 });
  paper.y = Math.max(paper.y, top + 52) + 10;
  wordsOn(paper, opening);
  table(paper, taking, [...takeRows(rows), ...otherRows(one, rows)]);
  paper.moveDown(0.8);
  if (one.steps !== '') {
    paper.font('bold').fontSize(11).text('What to do', margin);
    paper.font('text').fontSize(10.5);
    one.steps.split('\n').forEach((step, index) => paper.text(`${index + 1}.  ${step}`, margin, paper.y, { width: 496 }));
    paper.moveDown(0.8);
  }
  table(
    paper,
    making,
    one.products.map((line) => [madeName(line), `${line.quantity}${unitOf(line.unit)}`, blank, blank, line.bin]),
  );
  paper.moveDown(0.8);
  table(
    paper,
    working,
    one.costs.map((cost) => [cost.name, `${cost.quantity} ${cost.per === 'hour' ? 'hours' : 'pieces'}`, blank]),
  );
  paper.moveDown(0.8);
  paper.font('text').fontSize(10.5).text('Done by ____________________    on ____________', margin);
  paper.moveDown(0.8);
  if (one.note !== '') wordsOn(paper, one.note);
  wordsOn(paper, closing);
}

/** What is made, and as which lot. */
const madeName = ({ sku, name, nextLot, tracking }: WorkOrder['products'][number]): string =>
  [
    `${sku}  ${name}`,
    nextLot === null ? '' : `lot ${nextLot.code}${nextLot.useBy === null ? '' : `, use by ${dayInWords(nextLot.useBy)}`}`,
    tracking === 'serial' ? `serials ${blank}${blank}` : '',
  ]
    .filter(Boolean)
    .join('\n');

/** What to take from which bin for work orders, as pick lists for a pencil, each on pages of its own. */
export async function workPickPapers(act: Act, ids: readonly number[]): Promise<FileAnswer> {
  const orders = await inTurn(ids, async (id) => ({ one: await getWorkOrder(act, id), list: await workPickList(act, id) }));
  const bytes = await pickSheets(
    act,
    orders.map(({ one, list }) => ({
      title: `Pick list ${one.number}`,
      code: one.number,
      head: [
        ['To make', [`${one.quantity}${unitOf(one.unit)} ${one.sku}`, one.name]],
        ['Starts', [dayInWords(one.startsOn), one.site]],
      ],
      forWhom: 'Line',
      rows: list.rows.map((row) => pickRow(row, false, String(one.lines.find((line) => line.id === row.lineId)?.position ?? ''))),
      missing: list.missing.map(({ sku, quantity }) => `${quantity} ${sku}`),
    })),
  );
  return { type: 'application/pdf', name: orders.length === 1 ? `pick list ${orders[0]?.one.number ?? ''}.pdf` : 'pick lists.pdf', bytes };
}

/** One after the other: they are asked over one connection. */
async function inTurn<T>(ids: readonly number[], ask: (id: number) => Promise<T>): Promise<T[]> {
  const all: T[] = [];
  for (const id of ids) all.push(await ask(id));
  return all;
}

type Picks = Awaited<ReturnType<typeof workPickList>>['rows'];

/** Bin by bin, as one walks. */
const takeRows = (rows: Picks): string[][] =>
  rows.map((row) => [
    row.bin,
    row.sku,
    [row.name, row.lot ?? '', row.useBy === null ? '' : `use by ${dayInWords(row.useBy)}`].filter(Boolean).join('\n'),
    `${row.take}${unitOf(row.unit)}`,
    blank,
    blank,
  ]);

/** What is taken already, lies in no bin, or is used as it comes. */
function otherRows({ lines }: WorkOrder, rows: Picks): string[][] {
  return lines.flatMap((line) => {
    const listed = rows.filter(({ lineId }) => lineId === line.id).reduce((all, { take }) => all.plus(take), decimal(0));
    const left = decimal(line.needed).minus(listed);
    if (left.lte(0)) return [];
    const where = !line.stocked ? 'as it comes' : decimal(line.taken).gte(left) ? 'at the work' : 'not here';
    return [
      [
        where,
        line.sku,
        [line.name, line.note].filter(Boolean).join('\n'),
        `${quantityText(left)}${unitOf(line.unit)}`,
        decimal(line.taken).gt(0) ? line.taken : blank,
        blank,
      ],
    ];
  });
}
