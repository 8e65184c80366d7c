import { expect, test } from '@jest/globals';
import { decimal } from './decimal';
import { decisionFault, orderWays, type OrderFacts, type OrderLineFacts } from './order';

const line = (part: Partial<Record<'ordered' | 'cancelled' | 'arrived' | 'drawn' | 'finished', string>>, stocked = true): OrderLineFacts => ({
  stocked,
  ordered: decimal(part.ordered ?? '10'),
  cancelled: decimal(part.cancelled ?? '0'),
  arrived: decimal(part.arrived ?? '0'),
  drawn: decimal(part.drawn ?? '0'),
  straight: decimal(0),
  finished: decimal(part.finished ?? '0'),
});
const facts = (lines: OrderLineFacts[], part: Partial<OrderFacts> = {}): OrderFacts => ({
  number: 'PO-1',
  decided: true,
  closed: false,
  cancelled: false,
  direct: false,
  lines,
  ...part,
});
const purchase = (order: OrderFacts) => orderWays.purchase.standing(order);
const sales = (order: OrderFacts) => orderWays.sales.standing(order);

test('a purchase order is open until all that is still ordered has come; more of one line makes up for nothing of another', () => {
  expect(purchase(facts([line({})], { decided: false }))).toMatchObject({ state: 'draft', isDraft: true, isOpen: false });
  expect(purchase(facts([line({ arrived: '4' })]))).toMatchObject({ state: 'part received', isOpen: true, begun: true });
  expect(purchase(facts([line({ arrived: '4', cancelled: '6' })]))).toMatchObject({ state: 'received', isOpen: false });
  expect(purchase(facts([line({ arrived: '14' }), line({ arrived: '6' })]))).toMatchObject({ state: 'part received', isOpen: true });
});

test('a sales order counts what is not kept in stock once it has gone, and knows what waits on the bench', () => {
  expect(sales(facts([line({ drawn: '4', finished: '1' })]))).toMatchObject({ state: 'waiting on the bench', isOpen: true, begun: true, underWay: true });
  expect(sales(facts([line({ drawn: '10', finished: '10' }), line({ drawn: '10', finished: '10' }, false)]))).toMatchObject({
    state: 'dispatched',
    isOpen: false,
    underWay: false,
  });
});

test('what can be decided on an order, and what is said when it cannot', () => {
  const said = (sort: 'purchase' | 'sales', order: OrderFacts) =>
    (['decide', 'cancel', 'close', 'reopen'] as const).map((decision) => decisionFault(sort, order, decision)?.type ?? 'may');
  const draft = facts([line({})], { decided: false });
  expect(said('purchase', draft)).toEqual(['may', 'may', 'not-open', 'not-cancelled']);
  expect(said('sales', draft)).toEqual(['may', 'may', 'not-open', 'not-cancelled']);
  expect(said('purchase', facts([line({})]))).toEqual(['not-a-draft', 'may', 'may', 'not-cancelled']);
  expect(said('purchase', facts([line({ arrived: '3' })]))).toEqual(['not-a-draft', 'cannot-cancel', 'may', 'not-cancelled']);
  expect(said('purchase', facts([line({ arrived: '10' })]))).toEqual(['not-a-draft', 'not-open', 'not-open', 'not-cancelled']);
  expect(said('sales', facts([line({ drawn: '3', finished: '1' })]))).toEqual(['not-a-quote', 'on-the-bench', 'on-the-bench', 'not-cancelled']);
  expect(said('sales', facts([line({ drawn: '3', finished: '3' })]))).toEqual(['not-a-quote', 'cannot-cancel', 'may', 'not-cancelled']);
  for (const over of [{ cancelled: true }, { closed: true }])
    expect(said('sales', facts([line({})], over))).toEqual(['not-a-quote', 'not-open', 'not-open', 'may']);
  expect(said('sales', { ...draft, cancelled: true })).toEqual(['not-a-quote', 'not-open', 'not-open', 'may']);
  // what came after its rest was cancelled leaves nothing to open again
  const withdrawn = (lines: OrderLineFacts[], part: Partial<OrderFacts> = {}) => decisionFault('sales', facts(lines, part), 'withdraw')?.sentence ?? 'may';
  expect(withdrawn([line({})])).toBe('may');
  expect(withdrawn([line({})], { decided: false })).toBe('PO-1 is a quote already.');
  expect(withdrawn([line({ drawn: '1' })])).toBe('Goods of PO-1 have gone out, or wait on the bench: it cannot be a quote again.');
  expect(withdrawn([line({})], { cancelled: true })).toBe('PO-1 is cancelled already.');
  expect(decisionFault('purchase', facts([line({ arrived: '10' })], { closed: true }), 'reopen')?.sentence).toBe('Nothing of PO-1 is left to come or go.');
  expect(decisionFault('purchase', facts([line({ arrived: '3' })]), 'cancel')?.sentence).toBe('Goods have come in on PO-1; cancel the rest instead.');
  expect(decisionFault('sales', draft, 'close')?.sentence).toBe('PO-1 is only a quote; cancel it instead.');
});
