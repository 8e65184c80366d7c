import { expect, test } from '@jest/globals';
import type { CanBeLent } from '@larder/contract/loans';
import { fromOneSite, lendBody, lendField, placeOf, quantityBy, withScanned, type LendDraft, type LendRow } from './loanForm';

const place = (binId: number, part: Partial<CanBeLent['places'][number]> = {}) => ({
  siteId: 1,
  site: 'Barn',
  binId,
  bin: `B-${binId}`,
  lotId: null,
  lot: null,
  quantity: '5',
  free: '3',
  ...part,
});
const tool: CanBeLent = { itemId: 7, sku: 'HT-J', name: 'Hive tool', unit: 'each', step: '1', tracking: 'none', places: [place(1), place(2)] };
const extractor: CanBeLent = {
  ...tool,
  itemId: 8,
  sku: 'EX-4F',
  tracking: 'serial',
  places: [place(1, { lotId: 11, lot: 'S-1', quantity: '1', free: '2' }), place(1, { lotId: 12, lot: 'S-2', quantity: '1', free: '2' })],
};
const row = (part: Partial<LendRow> = {}): LendRow => ({ itemId: 7, sku: 'HT-J', name: 'Hive tool', binId: null, lotId: null, quantity: '1', ...part });
const draft = (rows: LendRow[]): LendDraft => ({ holder: { id: 3, name: 'Ridge' }, dueOn: null, note: '', rows });

test('a row is taken from the place that was chosen, else from the first that no other row has', () => {
  expect(placeOf(row(), tool, [])?.binId).toBe(1);
  expect(placeOf(row({ binId: 2 }), tool, [])?.binId).toBe(2);
  expect(placeOf(row({ binId: 9 }), tool, [])).toBeNull();
  const units = [row({ itemId: 8, binId: 1, lotId: 11 }), row({ itemId: 8 })];
  expect(placeOf(units[1] as LendRow, extractor, units)?.lotId).toBe(12);
  expect(placeOf(row({ itemId: 8, lotId: 12 }), extractor, [])?.lotId).toBe(12);
  expect(placeOf(row(), undefined, [])).toBeNull();
});

test('places of the site that has the most of the items come first', () => {
  const [first, second] = fromOneSite([
    { ...tool, places: [place(1), place(5, { siteId: 2 })] },
    { ...extractor, places: [place(6, { siteId: 2 })] },
  ]);
  expect([first?.places.map(({ binId }) => binId), second?.places.map(({ binId }) => binId)]).toEqual([[5, 1], [6]]);
});

test('one of each, or all there is and nobody was promised', () => {
  expect([quantityBy('one', place(1)), quantityBy('all', place(1)), quantityBy('all', place(1, { quantity: '2' })), quantityBy('all', null)]).toEqual([
    '1',
    '3',
    '2',
    '0',
  ]);
  expect(quantityBy('one', place(1, { free: '0' }))).toBe('0');
});

test('rows without a number are not sent; what is refused of a line is said at its row', () => {
  const typed = draft([row({ quantity: '' }), row({ quantity: ' 2 ', binId: 2 })]);
  expect(lendBody(typed, [tool])).toEqual({ holderId: 3, dueOn: null, note: '', lines: [{ itemId: 7, lotId: null, binId: 2, quantity: '2' }] });
  expect(lendField('lines.0.quantity', typed)).toBe('rows.1.quantity');
  expect([lendField('holderId', typed), lendField('dueOn', typed)]).toEqual(['holder', 'dueOn']);
});

test('a scan counts one more; a serial that was scanned already stays one', () => {
  const scanned = { itemId: 7, sku: 'HT-J', name: 'Hive tool', lotId: null };
  expect(withScanned([row()], scanned, '1').map(({ quantity }) => quantity)).toEqual(['2']);
  const unit = { ...scanned, itemId: 8, lotId: 11 };
  const once = withScanned([], unit, '1');
  expect(withScanned(once, unit, '1')).toEqual(once);
  expect(withScanned(once, { ...unit, lotId: 12 }, '1').map(({ lotId }) => lotId)).toEqual([11, 12]);
});
