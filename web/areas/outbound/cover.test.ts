import { expect, test } from '@jest/globals';
import { coverParts, coverWords } from './cover';

const today = '2026-11-23';
const coming: Parameters<typeof coverParts>[2] = [{ kind: 'purchase', orderNumber: 'PO-1020', orderId: 1, quantity: '6', expectedOn: '2026-11-26' }];
const said = (wanted: number, short: number, from = coming, wholeOn: string | null = null) => coverWords(coverParts(wanted, short, from), from, wholeOn, today);

test('where a line comes from is said in words', () => {
  expect(said(12, 0)).toBe('all on the shelf');
  expect(said(10, 6)).toBe('4 now, 6 from PO-1020 on Thu 26 Nov');
  expect(said(6, 6)).toBe('6 from PO-1020 on Thu 26 Nov');
  expect(said(20, 16)).toBe('4 now, 6 from PO-1020 on Thu 26 Nov, 10 short with no date yet');
  expect(said(5, 5, [])).toBe('5 short with no date yet');
});

test('a delivery without a date promises nothing, a late one is called late', () => {
  expect(said(5, 5, [{ kind: 'purchase', orderNumber: 'PO-1', orderId: 1, quantity: '9', expectedOn: null }])).toBe('5 short with no date yet');
  expect(said(5, 5, [{ kind: 'purchase', orderNumber: 'PO-1', orderId: 1, quantity: '9', expectedOn: '2026-11-20' }])).toBe('5 from PO-1 on Fri 20 Nov, late');
});
