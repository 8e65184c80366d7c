import { expect, test } from '@jest/globals';
import { amendedLines, amendFaults, amendWords, type LineAsked, type StandingLine } from './amending';

const order = { siteId: 1, shipBy: '2026-12-01', discount: '0', today: '2026-11-24' };
const standing = (part: Partial<StandingLine> = {}): StandingLine => ({
  id: 7,
  itemId: 3,
  siteId: 1,
  sku: 'VASE',
  stocked: true,
  step: '1',
  factor: { numerator: 6, denominator: 1 },
  quantity: '2',
  price: '30.00',
  pricePer: '1',
  discount: '0',
  picked: '0',
  dispatched: '0',
  direct: '0',
  sent: '0',
  onOrder: '0',
  shipBy: null,
  promisedOn: null,
  moved: false,
  ...part,
});
const asked = (part: Partial<LineAsked> = {}): LineAsked => ({
  lineId: 7,
  quantity: '2',
  price: '30',
  discount: '0.00',
  shipBy: null,
  siteId: null,
  promisedOn: null,
  ...part,
});
const fault = (was: Partial<StandingLine>, to: Partial<LineAsked>) => amendFaults([standing(was)], [asked(to)], order)[0];

test('what is picked stays wanted, what has gone keeps its price, and goods come from where they were picked', () => {
  expect(fault({ picked: '7', moved: true }, { quantity: '1' })).toEqual({
    field: 'lines.0.quantity',
    sentence: '7 of VASE are picked already; it can be no less.',
  });
  expect(fault({ picked: '6', moved: true }, { quantity: '1', price: '31' })).toBeUndefined();
  expect(fault({ picked: '6', dispatched: '6', moved: true }, { price: '31' })?.field).toBe('lines.0.price');
  expect(fault({ picked: '6', dispatched: '6', moved: true }, { price: '30.000' })).toBeUndefined();
  expect(fault({ moved: true }, { siteId: 2 })?.field).toBe('lines.0.siteId');
  expect(fault({}, { siteId: 2 })).toBeUndefined();
  expect(fault({ siteId: 2, moved: true }, { siteId: 2 })).toBeUndefined();
});

test('a day that has passed is refused unless it was there before; so is part of a piece, and a line of another order', () => {
  expect(fault({}, { shipBy: '2026-11-23' })?.field).toBe('lines.0.shipBy');
  expect(fault({ shipBy: '2026-11-23' }, { shipBy: '2026-11-23' })).toBeUndefined();
  expect(fault({}, { quantity: '0.25' })?.field).toBe('lines.0.quantity');
  expect(fault({}, { lineId: 8 })).toEqual({ field: 'lines.0.lineId', sentence: 'This order has no such line.' });
});

test('a line is worth what it then says, less what is taken off it and off the order, rounded once', () => {
  const [line] = amendedLines([standing()], [asked({ quantity: '3', price: '19.99', discount: '12.34' })], { ...order, discount: '5.67' });
  // 3 × 1999 × 8766 × 9433 / 10⁸ cents = 4958.94…
  const cents = (3n * 1999n * 8766n * 9433n * 2n + 100_000_000n) / 200_000_000n;
  expect(line).toMatchObject({ baseQuantity: '18', amount: `${cents / 100n}.${String(cents % 100n).padStart(2, '0')}`, end: 'none' });
});

test('nothing wanted takes a line off the order; one that goods were moved for stays as cancelled, and may be wanted again', () => {
  const ends = (was: Partial<StandingLine>, quantity: string) => amendedLines([standing(was)], [asked({ quantity })], order)[0];
  expect(ends({}, '0')).toMatchObject({ end: 'removed', amount: '0.00' });
  expect(ends({ moved: true }, '0')).toMatchObject({ end: 'cancelled', amount: '0.00' });
  expect(ends({ moved: true, quantity: '0' }, '1')).toMatchObject({ end: 'none', amount: '30.00', baseQuantity: '6' });
});

test('lines that nothing is said of stay; those without a day of their own move with the order', () => {
  const lines = amendedLines([standing(), standing({ id: 8, shipBy: '2026-12-24', siteId: 2, picked: '3' })], [], { ...order, shipBy: '2026-12-09' });
  expect(lines.map(({ shipBy, siteId, quantity, changesSite }) => [shipBy, siteId, quantity, changesSite])).toEqual([
    ['2026-12-09', 1, '2', false],
    ['2026-12-24', 2, '2', false],
  ]);
  expect(lines[1]?.wanted.toFixed()).toBe('9');
});

test('what changes is told in words, line by line', () => {
  const was = [standing(), standing({ id: 8, sku: 'BOWL', shipBy: '2026-12-01' }), standing({ id: 9, sku: 'JUG' })];
  const to = [asked({ quantity: '3', price: '29' }), asked({ lineId: 8, siteId: 2, shipBy: '2026-12-01' }), asked({ lineId: 9, quantity: '0' })];
  expect(amendWords(was, amendedLines(was, to, order), [{ sku: 'DISH', quantity: '4.0' }])).toBe(
    '3 of VASE instead of 2, VASE at another price, BOWL from another site, no more JUG, 4 of DISH added',
  );
  expect(amendWords(was, amendedLines(was, [], order), [])).toBe('');
});

test('what is on order straight from a supplier is the least a line can be; what was only decided gives way', () => {
  const at = standing({ factor: { numerator: 1, denominator: 1 }, quantity: '10', direct: '6', onOrder: '2', sent: '1', picked: '3', moved: true });
  const asked = (quantity: string): LineAsked[] => [{ lineId: 7, quantity, price: '30.00', discount: '0', shipBy: null, siteId: null, promisedOn: null }];
  expect(amendFaults([at], asked('4'), order)).toEqual([
    { field: 'lines.0.quantity', sentence: '2 of VASE are on order straight from a supplier; it can be no less until that is cancelled.' },
  ]);
  expect(amendFaults([at], asked('5'), order)).toEqual([]);
  // Two came off the shelf, one was sent straight: of seven five are left, all of them straight; of ten two more are the site's.
  expect(['7', '10'].map((many) => amendedLines([at], asked(many), order)[0]).map((line) => [line?.direct, line?.wanted.toFixed()])).toEqual([
    ['5', '0'],
    ['6', '2'],
  ]);
});
