import { dayInWords } from '@larder/core/day';
import { askedLines } from '@larder/core/post/asked';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { letterPaper, wordsOn, type Letterhead } from '../../documents/letterhead';
import { bytesOf, facts, margin, table, totals, type PaperColumn } from '../../documents/paper';

/** Whom the paper is to, and the business's own words on it. */
export interface PaperHead {
  supplierAddress: string;
  opening: string;
  closing: string;
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
export async function orderPaper(order: PurchaseOrder, letterhead: Letterhead, { supplierAddress, opening, closing }: PaperHead): Promise<Buffer> {
  const paper = letterPaper(`Purchase order ${order.number}`, letterhead);
  const top = paper.y;
  facts(paper, margin, top, 'To', [order.supplier, ...supplierAddress.split('\n')]);
  const ends = [paper.y];
  facts(paper, 230, top, 'Deliver to', placeAsked(order));
  ends.push(paper.y);
  facts(paper, 410, top, 'Wanted by', [order.expectedOn ? dayInWords(order.expectedOn) : 'as soon as you can']);
  paper.y = Math.max(...ends, paper.y) + 18;
  wordsOn(paper, opening);
  table(
    paper,
    columns,
    askedLines(order.lines).map(({ position, code, name, quantity, price, amount }) => [position, code, name, quantity, price, amount]),
  );
  totals(
    paper,
    [['Goods', order.amount], ...order.charges.map(({ label, amount }) => [label, amount] as const), ['Tax', order.tax]],
    [`In all, ${order.currency}`, order.total],
  );
  wordsOn(paper, order.note);
  wordsOn(paper, closing);
  return bytesOf(paper);
}

/** Where it is to be delivered: a site of ours, or straight to a customer with the address. */
export const placeAsked = (order: PurchaseOrder): string[] => (order.shipsTo === null ? [order.site] : [order.shipsTo, ...order.shipsToAddress.split('\n')]);
