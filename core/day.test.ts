import { expect, test } from '@jest/globals';
import { addDays, dayOf, daysBetween, nextWorkday, parseDay } from './day';

const today = '2026-11-23'; // a Monday

test.each([
  ['today', '2026-11-23'],
  ['tomorrow', '2026-11-24'],
  ['+7', '2026-11-30'],
  ['-1', '2026-11-22'],
  ['fri', '2026-11-27'],
  ['monday', '2026-11-30'],
  ['24/11', '2026-11-24'],
  ['22/11', '2027-11-22'],
  ['1.2', '2027-02-01'],
  ['24/11/27', '2027-11-24'],
  ['2026-12-05', '2026-12-05'],
  ['31/2', null],
  ['29/2', null],
  ['2026-02-30', null],
  ['soon', null],
  ['', null],
  ['99', null],
])('"%s" typed on a Monday in November means %s', (text, day) => {
  expect(parseDay(text, today)).toBe(day);
});

test.each([
  ['today', '2026-11-23'],
  ['yesterday', '2026-11-22'],
  ['-3', '2026-11-20'],
  ['fri', '2026-11-20'],
  ['sunday', '2026-11-22'],
  ['mon', '2026-11-16'],
  ['23/11', '2026-11-23'],
  ['20/11', '2026-11-20'],
  ['24/11', '2025-11-24'],
  ['30/12', '2025-12-30'],
  ['24/11/26', '2026-11-24'],
  ['29/2', null],
])('"%s" typed on that Monday where something has happened means %s', (text, day) => {
  expect(parseDay(text, today, 'behind')).toBe(day);
});

test('days are counted over months and summer time', () => {
  expect(addDays('2026-03-28', 2)).toBe('2026-03-30');
  expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2);
  expect(nextWorkday('2026-11-28')).toBe('2026-11-30');
});

test('a moment falls on the day of the company, not of the machine', () => {
  expect(dayOf(new Date('2026-06-30T23:30:00Z'), 'Europe/London')).toBe('2026-07-01');
  expect(dayOf(new Date('2026-11-30T23:30:00Z'), 'Europe/London')).toBe('2026-11-30');
});
