import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { lotMarks, lotNumber, lotPatternFault, usedBy } from './lotNumber';

const made = { day: '2026-03-09', order: 'WO-114', nth: 2 };

test.each([
  ['{order}-{n}', 'WO-114-2'],
  ['L{yy}{mm}{dd}', 'L260309'],
  [' {yyyy}/{mm} {order} ', '2026/03 WO-114'],
  ['{dd}{dd}', '0909'],
])('a lot by the pattern %s is %s', (pattern, number) => {
  expect(lotPatternFault(pattern)).toBeNull();
  expect(lotNumber(pattern, made)).toBe(number);
});

test.each([
  ['', 'Say what lot numbers are made of, such as {order}-{n}.'],
  ['   ', 'Say what lot numbers are made of, such as {order}-{n}.'],
  ['{order}-{week}', '{week} stands for nothing. Known are {yyyy}, {yy}, {mm}, {dd}, {order} and {n}.'],
  ['{order}-{', 'A brace is open: write each mark in two, such as {order}.'],
  ['{order}}', 'A brace is open: write each mark in two, such as {order}.'],
  ['{toString}{order}', '{toString} stands for nothing. Known are {yyyy}, {yy}, {mm}, {dd}, {order} and {n}.'],
  ['LOT {n}', 'With neither {order} nor {dd} the lots of many days would have one number.'],
  [`${'x'.repeat(50)}{order}`, 'That makes lot numbers of more than 60 characters.'],
])('the pattern “%s” is refused', (pattern, sentence) => {
  expect(lotPatternFault(pattern)).toBe(sentence);
});

test('a pattern that is taken gives a code that can be one, and of it with the order and its record another one each time', () => {
  const part = fc.oneof(fc.constantFrom(...Object.keys(lotMarks).map((mark) => `{${mark}}`)), fc.stringMatching(/^[A-Z0-9 /-]{0,4}$/));
  const lot = fc.record({ order: fc.integer({ min: 1, max: 99_999 }), nth: fc.integer({ min: 1, max: 99 }) });
  fc.assert(
    fc.property(fc.array(part, { maxLength: 6 }), lot, lot, (parts, one, other) => {
      const pattern = `${parts.join('')}{order}-{n}`;
      if (lotPatternFault(pattern) !== null) return;
      const [first, second] = [one, other].map(({ order, nth }) => lotNumber(pattern, { day: '2026-03-09', order: `WO-${order}`, nth }));
      expect(first).toMatch(/^[^{}]{1,60}$/);
      expect(first === second).toBe(one.order === other.order && one.nth === other.nth);
    }),
  );
});

test('the use-by day is the day it is made and its shelf life, over the end of a month', () => {
  expect([usedBy('2026-02-20', 10), usedBy('2026-02-20', 0), usedBy('2026-02-20', null)]).toEqual(['2026-03-02', '2026-02-20', null]);
});
