import { describe, expect, test } from '@jest/globals';
import { parseLineEntry } from './catalog/lineEntry';
import { decimal } from './decimal';
import { lineAmount, receiptValue } from './inbound/amount';
import { matchReceipt, itemMeant, type OpenLine } from './inbound/match';
import { taxOf } from './outbound/tax';
import { purchaseState, salesState } from './stage';
import { free, projectedFree, availableOn, type Supply } from './stock/availability';
import { correctionDifference } from './stock/correction';

describe('a line typed in one field', () => {
  test.each([
    ['12 smoker', { quantity: '12', words: 'smoker' }],
    ['smoker 12', { quantity: '12', words: 'smoker' }],
    ['12 x smoker std', { quantity: '12', words: 'smoker std' }],
    ['smoker x 2', { quantity: '2', words: 'smoker' }],
    ['smoker', { quantity: '1', words: 'smoker' }],
    ['2000000000398', { quantity: '1', words: '2000000000398' }],
    ['0.5 wire', { quantity: '0.5', words: 'wire' }],
    ['JAR-340-GLD 48', { quantity: '48', words: 'JAR-340-GLD' }],
    ['   ', null],
  ])('%p', (text, entry) => {
    expect(parseLineEntry(text)).toEqual(entry);
  });
});

describe('promise date', () => {
  const day = (n: number) => `2026-11-${String(10 + n).padStart(2, '0')}`;
  test('free 5, nothing short, 20 come on day 10: 4 today, 10 on day 10, 30 no date', () => {
    const supply: Supply = { today: day(0), free: decimal(5), incoming: [{ day: day(10), quantity: decimal(20), document: 'PO' }], demand: [] };
    expect([4, 10, 30].map((quantity) => availableOn(supply, decimal(quantity)))).toEqual([day(0), day(10), null]);
  });
  test('free 0, an order due on day 12 is short of 8, 20 come on day 10: 10 on day 10, 15 no date', () => {
    const supply: Supply = {
      today: day(0),
      free: decimal(0),
      incoming: [{ day: day(10), quantity: decimal(20), document: 'PO' }],
      demand: [{ day: day(12), quantity: decimal(8), document: 'SO' }],
    };
    expect([10, 15].map((quantity) => availableOn(supply, decimal(quantity)))).toEqual([day(10), null]);
  });
  test('all that is free, and just as much as comes, can be promised; one more cannot', () => {
    const supply: Supply = { today: day(0), free: decimal(5), incoming: [{ day: day(3), quantity: decimal(2), document: 'PO' }], demand: [] };
    expect([5, 6, 7, 8].map((quantity) => availableOn(supply, decimal(quantity)))).toEqual([day(0), day(3), day(3), null]);
  });
  test('what comes today counts today, and demand that is overdue too', () => {
    const supply: Supply = {
      today: day(5),
      free: decimal(1),
      incoming: [{ day: day(5), quantity: decimal(4), document: 'PO' }],
      demand: [{ day: day(2), quantity: decimal(3), document: 'SO' }],
    };
    expect([2, 3].map((quantity) => availableOn(supply, decimal(quantity)))).toEqual([day(5), null]);
    expect(projectedFree(supply).map((step) => [step.day, step.quantity.toFixed(), step.document])).toEqual([
      [day(5), '1', ''],
      [day(5), '5', 'PO'],
      [day(5), '2', 'SO'],
    ]);
  });
  test('demand on the very day of a delivery is served by it', () => {
    const supply: Supply = {
      today: day(0),
      free: decimal(0),
      incoming: [{ day: day(4), quantity: decimal(6), document: 'PO' }],
      demand: [{ day: day(4), quantity: decimal(6), document: 'SO' }],
    };
    expect([0, 1].map((quantity) => availableOn(supply, decimal(quantity)))).toEqual([day(0), null]);
  });
  test('free is never below nothing', () => expect([free(decimal(3), decimal(5)), free(decimal(5), decimal(3))].map(String)).toEqual(['0', '2']));
  test('an overdue delivery supports no promise', () => {
    const supply: Supply = { today: day(5), free: decimal(0), incoming: [{ day: day(1), quantity: decimal(20), document: 'PO' }], demand: [] };
    expect(availableOn(supply, decimal(1))).toBeNull();
    expect(projectedFree(supply).map(({ quantity }) => quantity.toFixed())).toEqual(['0']);
    expect(availableOn({ ...supply, today: day(2), demand: [{ day: day(1), quantity: decimal(2), document: 'SO' }] }, decimal(0))).toBeNull();
  });
  test('deliveries and demand are reckoned by their days, in whatever order they were entered', () => {
    const supply: Supply = {
      today: day(0),
      free: decimal(1),
      incoming: [
        { day: day(9), quantity: decimal(10), document: 'PO-2' },
        { day: day(3), quantity: decimal(4), document: 'PO-1' },
      ],
      demand: [
        { day: day(6), quantity: decimal(2), document: 'SO-2' },
        { day: day(1), quantity: decimal(1), document: 'SO-1' },
      ],
    };
    expect(projectedFree(supply).map((step) => `${step.document} ${step.quantity.toFixed()}`)).toEqual([' 1', 'SO-1 0', 'PO-1 4', 'SO-2 2', 'PO-2 12']);
    expect([0, 1, 2, 3, 12, 13].map((quantity) => availableOn(supply, decimal(quantity)))).toEqual([day(0), day(3), day(3), day(9), day(9), null]);
  });
});

describe('receiving match', () => {
  const line = (lineId: number, orderNumber: string, expectedOn: string | null, outstanding: number, itemId = 1): OpenLine => ({
    lineId,
    delivery: String(lineId * 10),
    orderNumber,
    position: 1,
    itemId,
    expectedOn,
    outstanding: decimal(outstanding),
  });
  const open = [
    line(1, 'PO-1002', '2026-11-20', 5),
    line(2, 'PO-999', '2026-11-20', 4),
    line(3, 'PO-1', null, 50),
    line(4, 'PO-1003', '2026-11-18', 2),
    line(5, 'PO-7', '2026-11-01', 9, 2),
  ];
  const taken = (quantity: number, chosen: string[] = []) => {
    const { taken: lines, over } = matchReceipt(open, 1, decimal(quantity), chosen);
    return [...lines.map((one) => `${one.lineId}:${one.quantity}`), `over ${over}`];
  };
  test('fills by expected day, then order number, then line', () => {
    expect(taken(8)).toEqual(['4:2', '2:4', '1:2', 'over 0']);
  });
  test('held to chosen deliveries nothing else is touched; more than they want is over', () => {
    expect(taken(8, ['10'])).toEqual(['1:5', 'over 3']);
  });
  test('a code of several items is settled by what is wanted, or asked about', () => {
    expect(itemMeant([1, 3], open, [])).toBe(1);
    expect(itemMeant([1, 2], open, ['50'])).toBe(2);
    expect(itemMeant([1, 2], open, [])).toBeNull();
  });
});

test('a correction moves the difference to what lay there when it was entered', () => {
  const difference = correctionDifference('there-are-now', decimal(18), decimal(20));
  expect(difference.toFixed()).toBe('-2');
  expect(decimal(20).minus(4).plus(difference).toFixed()).toBe('14');
  expect(correctionDifference('plus-or-minus', decimal(3), decimal(20)).toFixed()).toBe('3');
});

test('line amounts and the value of part receipts', () => {
  expect(lineAmount({ quantity: decimal(3), price: decimal('3.333333'), pricePer: decimal(1), discount: decimal(0) }).toFixed(2)).toBe('10.00');
  expect(lineAmount({ quantity: decimal(250), price: decimal('4.20'), pricePer: decimal(100), discount: decimal(10) }).toFixed(2)).toBe('9.45');
  const line = { amount: decimal(10), baseQuantity: decimal(3), rate: decimal(1) };
  const had = (quantity: number, amount: string) => ({ quantity: decimal(quantity), amount: decimal(amount) });
  expect([had(0, '0'), had(1, '3.33'), had(2, '6.67')].map((before) => receiptValue(line, before, decimal(1)).toFixed(2))).toEqual(['3.33', '3.34', '3.33']);
});

test('tax is rounded once for each rate', () => {
  const lines = ['0.33', '0.33', '0.33'].map((amount) => ({ amount: decimal(amount), rate: decimal(20) }));
  expect(taxOf([...lines, { amount: decimal(5), rate: decimal(0) }]).toFixed(2)).toBe('0.20');
});

test('the state of an order follows from its decisions and counters', () => {
  const purchase = { placed: true, closed: false, cancelled: false, ordered: decimal(24), received: decimal(12), direct: false };
  expect([
    purchaseState(purchase),
    purchaseState({ ...purchase, closed: true }),
    purchaseState({ ...purchase, received: decimal(24) }),
    purchaseState({ ...purchase, placed: false }),
    purchaseState({ ...purchase, ordered: decimal(0), received: decimal(0) }),
  ]).toEqual(['part received', 'rest cancelled', 'received', 'draft', 'rest cancelled']);
  const sale = {
    confirmed: true,
    closed: false,
    cancelled: false,
    ordered: decimal(5),
    picked: decimal(3),
    dispatched: decimal(1),
    straight: { ordered: decimal(0), sent: decimal(0) },
    unkept: { ordered: decimal(0), dispatched: decimal(0) },
  };
  expect([salesState(sale), salesState({ ...sale, picked: decimal(1) }), salesState({ ...sale, confirmed: false })]).toEqual([
    'waiting on the bench',
    'part dispatched',
    'quote',
  ]);
  const sent = { ...sale, picked: decimal(1) };
  expect([3, 4].map((straight) => salesState({ ...sent, straight: { ordered: decimal(straight), sent: decimal(0) } }))).toEqual([
    'part dispatched',
    'waiting for the supplier',
  ]);
});
