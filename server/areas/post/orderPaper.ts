import { dayInWords } from '@larder/core/day';
import { askedLines } from '@larder/core/post/asked';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { a4, bytesOf, facts, margin, table, type PaperColumn } from '../../documents/paper';

/** Who the paper is from and to. */
export interface PaperHead {
  company: string;
  supplierAddress: string;
}

const columns = [
  { name: 'Line', x: 50, width: 30, align: 'left' },
  { name: 'Your code', x: 84, width: 76, align: 'left' },
  { name: 'Item', x: 164, width: 176, align: 'left' },
  { name: 'Quantity', x: 344, width: 80, align: 'right' },
  { name: 'Price', x: 428, width: 54, align: 'right' },
  { name: 'Amount', x: 486, width: 60, align: 'right' },
] satisfies PaperColumn[];

/** A purchase order on A4: who, where to, when, and every line; what was called off is left out of what is asked for. */
export async function orderPaper(order: PurchaseOrder, { company, supplierAddress }: PaperHead): Promise<Buffer> {
  const paper = a4(`Purchase order ${order.number}`, company);
  paper.font('bold').fontSize(20).text(`Purchase order ${order.number}`, margin, margin);
  paper.font('text').fontSize(10).text(`from ${company}`);
  const top = paper.y + 18;
  facts(paper, margin, top, 'To', [order.supplier, ...supplierAddress.split('\n')]);
  facts(paper, 230, top, 'Deliver to', placeAsked(order));
  facts(paper, 410, top, 'Wanted by', [order.expectedOn ? dayInWords(order.expectedOn) : 'as soon as you can']);
  paper.y = Math.max(paper.y, top + 60) + 14;
  table(
    paper,
    columns,
    askedLines(order.lines).map(({ position, code, name, quantity, price, amount }) => [position, code, name, quantity, price, amount]),
  );
  paper.moveDown(0.6);
  sums(paper, order);
  if (order.note) paper.moveDown().font('text').fontSize(10).text(order.note, margin, paper.y, { width: 496 });
  return bytesOf(paper);
}

/** Where it is to be delivered: a site of ours, or straight to a customer with the address. */
export const placeAsked = (order: PurchaseOrder): string[] => (order.shipsTo === null ? [order.site] : [order.shipsTo, ...order.shipsToAddress.split('\n')]);

/** Goods, charges, tax and all of it, one under the other. */
function sums(paper: PDFKit.PDFDocument, order: PurchaseOrder): void {
  const rows: [string, string][] = [
    ['Goods', order.amount],
    ...order.charges.map(({ label, amount }): [string, string] => [label, amount]),
    ['Tax', order.tax],
  ];
  paper.font('text').fontSize(10);
  for (const [name, amount] of rows) paper.text(`${name}  ${amount}`, margin, paper.y, { align: 'right', width: 496 });
  paper
    .font('bold')
    .fontSize(11)
    .text(`In all ${order.total} ${order.currency}`, margin, paper.y + 2, { align: 'right', width: 496 });
}
