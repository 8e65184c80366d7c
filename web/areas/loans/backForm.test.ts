import { expect, test } from '@jest/globals';
import type { LoanLine } from '@larder/contract/loans';
import { backBody, backField, backRows, withBack } from './backForm';

const line = (part: Partial<LoanLine> = {}): LoanLine => ({
  id: 1,
  loanId: 2,
  number: 'LN-1001',
  itemId: 7,
  sku: 'HT-J',
  name: 'Hive tool',
  unit: 'each',
  step: '1',
  lotId: null,
  lot: null,
  fromBinId: 4,
  fromBin: 'A-1',
  siteId: 1,
  site: 'Barn',
  lentOn: '2026-03-01',
  dueOn: null,
  overdue: false,
  lent: '3',
  back: '1',
  lost: '0',
  out: '2',
  ...part,
});
const rows = () => backRows([line(), line({ id: 2, out: '0' }), line({ id: 3, sku: 'EX-4F', lot: 'S-1', lotId: 9, lent: '1', out: '1' })]);

test('only what is out can come back; it is proposed to go where it came from', () => {
  expect(rows().map(({ lineId, binId, quantity }) => [lineId, binId, quantity])).toEqual([
    [1, 4, ''],
    [3, 4, ''],
  ]);
});

test('a scan brings one more back, as far as it is out; a serial is known by its own code', () => {
  const once = withBack(rows(), 'ht-j');
  const twice = withBack(once?.rows ?? [], 'HT-J');
  expect([once?.row.quantity, twice?.row.quantity, withBack(twice?.rows ?? [], 'HT-J')]).toEqual(['1', '2', null]);
  expect(withBack(rows(), 's-1')?.row.lineId).toBe(3);
  expect(withBack(rows(), 'NOPE')).toBeNull();
});

test('rows of which something comes back are sent; what is refused of a line is said at its row', () => {
  const [one, two] = rows();
  const draft = { rows: [one, { ...two, quantity: ' 1 ', condition: 'worn' as const, note: 'dented' }] as ReturnType<typeof rows> };
  expect(backBody(draft)).toEqual({ lines: [{ lineId: 3, quantity: '1', binId: 4, condition: 'worn', note: 'dented' }] });
  expect([backField('lines.0.quantity', draft), backField('lines.0.binId', draft), backField('note', draft)]).toEqual([
    'rows.1.quantity',
    'rows.1.binId',
    'note',
  ]);
});
