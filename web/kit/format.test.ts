import { expect, test } from '@jest/globals';
import { amountsIn, backdated, count, due, dueDay, moment, money, plainPrice, price, quantity, shortDay, sums, monthName } from './format';

test('numbers keep their digits; thousands are set apart by a thin space', () => {
  expect([quantity('1836'), quantity('-1234567.5'), quantity('0', true), quantity('0')]).toEqual(['1\u2009836', '-1\u2009234\u2009567.5', '', '0']);
  expect([money('18402.16'), money('5')]).toEqual(['18\u2009402.16', '5.00']);
  expect([price('18.900000'), price('3'), price('1234.5')]).toEqual(['18.90', '3.00', '1\u2009234.50']);
});

test('a price in a field loses nothing', () => {
  expect([plainPrice('3.333333'), plainPrice('12.5'), plainPrice('1234')]).toEqual(['3.333333', '12.50', '1234.00']);
});

test('days are said shortly, and how late something is', () => {
  const today = '2026-11-23';
  expect(['2026-11-20', '2026-11-22', today, '2026-11-24', '2026-11-27', '2026-12-24', null].map((day) => due(day, today))).toEqual([
    '3 days late',
    '1 day late',
    'today',
    'tomorrow',
    'Fri',
    'Thu 24 Dec',
    'no date',
  ]);
  expect([shortDay('2026-11-24', today), shortDay('2027-01-02', today)]).toEqual(['Tue 24 Nov', 'Sat 2 Jan 2027']);
  expect(['2026-11-22', '2026-11-24', '2026-11-27', '2026-12-24', null].map((day) => dueDay(day, today))).toEqual([
    'Sun 22 Nov, 1 day late',
    'Tue 24 Nov, tomorrow',
    'Fri 27 Nov',
    'Thu 24 Dec',
    'no date',
  ]);
  expect([count(1, 'line'), count(12, 'line'), count(20_000, 'item')]).toEqual(['1 line', '12 lines', '20\u2009000 items']);
});

test('a moment is said by its day, as all days are, and its time', () => {
  const year = new Date().getFullYear();
  expect(moment(new Date(year, 0, 5, 9, 4).toISOString())).toBe(`${shortDay(`${year}-01-05`)} 09:04`);
  expect(moment(new Date(2025, 11, 31, 23, 59).toISOString())).toBe('Wed 31 Dec 2025 23:59');
});

test('a posting for another day says which', () => {
  expect(backdated('2026-11-27', '2026-11-27T12:05:00')).toBe('');
  expect(backdated('2026-11-24', '2026-11-27T12:05:00')).toBe('Tue 24 Nov');
  expect(backdated('2025-12-31', '2026-01-02T09:00:00')).toBe('Wed 31 Dec 2025');
});

test('sums in several currencies stand side by side, that of the business without its name', () => {
  const amounts = [
    { currency: 'GBP', amount: '1234.50' },
    { currency: 'JPY', amount: '88000' },
  ];
  expect(sums(amounts)).toBe('1\u2009234.50\u00a0GBP + 88\u2009000\u00a0JPY');
  expect(sums(amounts, 'GBP')).toBe('1\u2009234.50 + 88\u2009000\u00a0JPY');
  expect(sums(amounts, 'JPY')).toBe('88\u2009000 + 1\u2009234.50\u00a0GBP');
  expect(sums([])).toBe('');
});

test('amounts in a sentence are written as everywhere; numbers of documents and small amounts stay', () => {
  expect(amountsIn('PO-1001: 1234567.80 of 999.00 on BILL-2040, and 2040.5 kg')).toBe(`PO-1001: ${money('1234567.80')} of 999.00 on BILL-2040, and 2040.5 kg`);
});

test('a month is told by its name', () => {
  expect(monthName('2026-03')).toBe('March 2026');
});
