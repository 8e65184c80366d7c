import { amountText } from '@larder/core/books/currency';
import { dayInWords } from '@larder/core/day';
import { decimal, priceText, quantityText, zero } from '@larder/core/decimal';
import type { SalesOrder } from '@larder/contract/outbound';
import { letterPaper, wordsOn, type Letterhead } from '../../documents/letterhead';
import { bytesOf, facts, margin, table, totals, type PaperColumn } from '../../documents/paper';

/** Who the paper is to, and the business's own words on it. */
export interface SaleHead {
  address: string;
  opening: string;
  closing: string;
}

const columns = [
  { name: 'Item', x: 50, width: 90, align: 'left' },
  { name: 'What', x: 144, width: 172, align: 'left' },
  { name: 'Quantity', x: 320, width: 70, align: 'right' },
  { name: 'Price', x: 394, width: 62, align: 'right' },
  { name: 'Amount', x: 460, width: 86, align: 'right' },
] satisfies PaperColumn[];

const isQuote = ({ confirmedAt }: SalesOrder): boolean => confirmedAt === null;

/** A quote, or the confirmation of an order, on A4: who, where to, when, and every line that is not cancelled. */
export async function salePaper(order: SalesOrder, letterhead: Letterhead, { address, opening, closing }: SaleHead): Promise<Buffer> {
  const paper = letterPaper(`${isQuote(order) ? 'Quote' : 'Order confirmation'} ${order.number}`, letterhead);
  const top = paper.y;
  facts(paper, margin, top, 'To', [order.customer, ...address.split('\n').filter((line) => line.trim() !== order.customer)]);
  const ends = [paper.y];
  if (order.shipTo !== '') {
    facts(paper, 230, top, 'Deliver to', order.shipTo.split('\n'));
    ends.push(paper.y);
  }
  facts(paper, 400, top, 'We send it by', [dayInWords(order.shipBy)]);
  if (isQuote(order) && order.validUntil !== null) facts(paper, 400, paper.y + 6, 'Prices hold until', [dayInWords(order.validUntil)]);
  if (order.reference !== '') facts(paper, 400, paper.y + 6, 'Your order', [order.reference]);
  paper.y = Math.max(...ends, paper.y) + 18;
  wordsOn(paper, opening);
  table(
    paper,
    columns,
    order.lines
      .filter((line) => decimal(line.baseQuantity).gt(zero))
      .map((line) => [
        line.sku,
        [
          line.name,
          decimal(line.discount).isZero() ? '' : `${quantityText(line.discount)} % off`,
          line.shipBy === order.shipBy ? '' : `by ${dayInWords(line.shipBy)}`,
        ]
          .filter(Boolean)
          .join('\n'),
        `${quantityText(line.quantity)}${line.unit === 'each' ? '' : ` ${line.unit}`}`,
        `${priceText(line.price)}${decimal(line.pricePer).eq(1) ? '' : ` for ${quantityText(line.pricePer)}`}`,
        line.amount,
      ]),
  );
  totals(
    paper,
    [
      ...(decimal(order.discounted).isZero() ? [] : [[`${quantityText(order.discount)} % off all lines is taken off`, ''] as const]),
      ['Without tax', order.amount] as const,
      ['Tax', order.tax] as const,
    ],
    [`In all, ${order.currency}`, amountText(order.currency, decimal(order.amount).plus(order.tax))],
  );
  if (order.note !== '') wordsOn(paper, order.note);
  wordsOn(paper, closing);
  return bytesOf(paper);
}
