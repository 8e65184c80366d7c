import { expect, test } from '@jest/globals';
import { merged } from '@larder/core/merge';
import { apartBody, apartField, fromOf, goodOf, partRowKeys, partRows, plannedOf, placesAt, type ApartDraft } from './apartForm';

const part = (itemId: number, sku: string, planned: string) => ({
  ...{ itemId, sku, name: sku, unit: 'each', step: '1', tracking: 'none' as const, planned, worth: '2.00', binId: 4, bin: 'B-01' },
});
const rows = partRows({ bill: '1', parts: [part(10, 'BOARD', '4'), part(20, 'SCREW', '8')] });
const draft = (more: Partial<ApartDraft> = {}): ApartDraft => ({ quantity: '1', from: null, note: '', parts: rows, ...more });
const bin = (binId: number, code: string, quantity: string, lots: { lotId: number; code: string; quantity: string }[] = []) => ({
  ...{ binId, bin: code, quantity, sellable: true },
  lots: lots.map((one) => ({ ...one, useBy: null, pastUse: false })),
});
const stock = { sites: [{ siteId: 1, bins: [bin(7, 'A-01', '2'), bin(8, 'A-02', '5'), bin(9, 'A-03', '0')] }] } as never;
const places = placesAt(stock, 1);

test('it is taken from where most of it lies, unless another bin is chosen', () => {
  expect(places.map(({ words, quantity }) => [words, quantity])).toEqual([
    ['A-02', '5'],
    ['A-01', '2'],
  ]);
  expect(fromOf(draft(), places)?.binId).toBe(8);
  expect(fromOf(draft({ from: '7/' }), places)?.binId).toBe(7);
  // What was chosen and has gone since is not another one without a word.
  expect(fromOf(draft({ from: '9/' }), places)).toBeUndefined();
  expect(placesAt(stock, 2)).toEqual([]);
});

test('of what is kept by lots each lot is a place of its own', () => {
  const lots = [
    { lotId: 3, code: 'L-3', quantity: '1' },
    { lotId: 4, code: 'L-4', quantity: '2' },
  ];
  const there = placesAt({ sites: [{ siteId: 1, bins: [bin(7, 'A-01', '3', lots)] }] } as never, 1);
  expect(there.map(({ words, lotId, quantity }) => [words, lotId, quantity])).toEqual([
    ['A-01, L-4', 4, '2'],
    ['A-01, L-3', 3, '1'],
  ]);
});

test('all that it should give is good unless it is said; of what it gives none nothing is sent', () => {
  expect(rows.map(goodOf)).toEqual(['4', '8']);
  const typed = draft({
    parts: [
      { ...(rows[0] as (typeof rows)[0]), good: '3', share: '2' },
      { ...(rows[1] as (typeof rows)[0]), planned: '0' },
    ],
  });
  expect(apartBody(typed, 5, places)).toEqual({
    ...{ itemId: 5, binId: 8, lotId: null, quantity: '1', note: '' },
    parts: [{ itemId: 10, planned: '4', quantity: '3', share: '2', binId: 4, lots: [] }],
  });
});

test('what is refused is said at its field, whichever rows are left out', () => {
  const typed = draft({ parts: [{ ...(rows[0] as (typeof rows)[0]), planned: '' }, rows[1] as (typeof rows)[0]] });
  expect(apartField('parts.0.quantity', typed)).toBe('parts.1.good');
  expect(apartField('parts.0.share', typed)).toBe('parts.1.share');
  expect(apartField('binId', typed)).toBe('from');
  expect(apartField('quantity', typed)).toBe('quantity');
});

test('when more are taken apart what nobody typed follows, and what was typed stays', () => {
  const typed = draft({ parts: [{ ...(rows[0] as (typeof rows)[0]), good: '3' }, rows[1] as (typeof rows)[0]] });
  const now = draft({ parts: partRows({ bill: '1', parts: [part(10, 'BOARD', '8'), part(20, 'SCREW', '16')] }) });
  const { form } = merged(draft(), typed, now, partRowKeys);
  expect(form.parts.map((row) => [plannedOf(row), goodOf(row)])).toEqual([
    ['8', '3'],
    ['16', '16'],
  ]);
});
