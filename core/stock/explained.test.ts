import { expect, test } from '@jest/globals';
import { foremost, plainPart, sinceThen } from './explained';

const amounts = (parts: readonly { what: string; amount: string }[]) => parts.map(({ what, amount }) => `${what} ${amount}`);

test('last changes begin with all that was before them, and come to the figure', () => {
  expect(amounts(sinceThen('10', [plainPart('pick', '-2'), plainPart('receipt', '5')]))).toEqual(['All before 7', 'receipt 5', 'pick -2']);
  expect(amounts(sinceThen('3', [plainPart('pick', '-2'), plainPart('receipt', '5')]))).toEqual(['receipt 5', 'pick -2']);
  expect(amounts(sinceThen('0.05', [plainPart('found', '0.1')]))).toEqual(['All before -0.05', 'found 0.1']);
  expect(amounts(sinceThen('0', []))).toEqual(['Never any 0']);
});

test('of many parts the largest are told one by one, in their order, and the others together', () => {
  const parts = ['1', '9', '-7', '2', '0.5'].map((amount, at) => plainPart(`part ${at + 1}`, amount));
  expect(amounts(foremost(parts, 3))).toEqual(['part 2 9', 'part 3 -7', '3 more 3.5']);
  expect(foremost(parts, 5)).toEqual(parts);
});
