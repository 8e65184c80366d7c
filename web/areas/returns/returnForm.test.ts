import { expect, test } from '@jest/globals';
import type { Held } from '@larder/contract/returns';
import { binsFor, lineOf, olderLine, oneMore, proposedBin, returnBody, returnField, type ReturnDraft } from './returnForm';

const held: Held = {
  salesLineId: 7,
  orderId: 70,
  order: 'SO-1007',
  position: 1,
  customerId: 3,
  customer: 'Copse Lane School',
  siteId: 1,
  itemId: 9,
  sku: 'HT-J',
  name: 'Hive tool',
  unit: 'each',
  lotId: null,
  lot: null,
  day: '2026-11-20',
  sent: '5',
  back: '1',
  straight: '0',
  held: '4',
  price: '9.5',
  currency: 'GBP',
  returnable: true,
};
const line = lineOf(held, undefined);
const draft = (lines: ReturnDraft['lines']): ReturnDraft => ({
  customer: { id: 3, name: 'Copse Lane School' },
  siteId: 1,
  cameOn: '2026-11-29',
  reference: '',
  note: '',
  lines,
});

test('a line begins with one of it, and with the condition and reason of the line before', () => {
  expect(line).toMatchObject({ quantity: '1', condition: 'shelf', reasonId: null, binId: null, order: 'SO-1007' });
  expect(lineOf(held, { ...line, condition: 'scrap', reasonId: 4, binId: 6 })).toMatchObject({ condition: 'scrap', reasonId: 4, binId: null });
  const item = { id: 9, sku: 'HT-J', name: 'Hive tool', unit: 'each', tracking: 'serial' as const };
  expect(olderLine(item, '2', { ...line, condition: 'scrap' })).toMatchObject({ salesLineId: null, quantity: '2', condition: 'shelf' });
});

test('one more, as far as the customer has so many; what is no number begins at one', () => {
  expect([oneMore(line), oneMore({ ...line, quantity: '4' }), oneMore({ ...line, quantity: 'x' }), oneMore({ ...line, held: '', quantity: '9' })]).toEqual([
    '2',
    '4',
    '1',
    '10',
  ]);
});

test('what is sent: lines of which something comes back; what is thrown away goes into no bin; lots and worth only of what was sold before', () => {
  const older = { ...olderLine({ id: 5, sku: 'OLD', name: 'Old', unit: 'each', tracking: 'serial' }, '', undefined), lot: ' S-1 ', unitValue: ' 12.50 ' };
  const { lines, customerId, receive } = returnBody(
    draft([{ ...line, quantity: '0' }, { ...line, condition: 'scrap', binId: 4, unitValue: '3' }, older]),
    false,
    false,
  );
  expect([customerId, receive]).toEqual([3, false]);
  expect(lines.map(({ salesLineId, binId, lotCode, unitValue }) => [salesLineId, binId, lotCode, unitValue])).toEqual([
    [7, null, '', null],
    [null, null, 'S-1', '12.50'],
  ]);
});

test('what is refused is said where it stands: past lines that are not sent, and a lot at its field', () => {
  const typed = draft([{ ...line, quantity: '' }, line]);
  expect(['customerId', 'cameOn', 'lines.0.reasonId', 'lines.0.itemId', 'lines.0.lots.0.code'].map((path) => returnField(path, typed))).toEqual([
    'customer',
    'cameOn',
    'lines.1.reasonId',
    'lines.1.quantity',
    'lines.1.lot',
  ]);
});

test('bins by condition and site; proposed is the item’s own, then one it lies in, then the one for goods without a bin', () => {
  const bin = (id: number, part: object = {}) => ({ id, siteId: 1, sellable: true, unplaced: false, retired: false, ...part });
  const all = [bin(1), bin(2, { unplaced: true }), bin(3, { sellable: false }), bin(4, { siteId: 2 }), bin(5, { retired: true })];
  const ids = (condition: 'shelf' | 'quarantine' | 'scrap', siteId: number | null = 1) => binsFor(all, condition, siteId).map(({ id }) => id);
  expect([ids('shelf'), ids('quarantine'), ids('scrap'), ids('shelf', null)]).toEqual([[1, 2], [3], [], []]);
  const shelves = binsFor(all, 'shelf', 1);
  expect([proposedBin(shelves, 1, [2]), proposedBin(shelves, 9, [1]), proposedBin(shelves, null, []), proposedBin([], null, [])]).toEqual([1, 1, 2, null]);
});
