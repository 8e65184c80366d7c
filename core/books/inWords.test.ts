import { expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { inWords } from './inWords';
import type { BookPurpose } from './purpose';

const said = (...totals: [BookPurpose, string][]) => inWords(new Map(totals.map(([purpose, amount]) => [purpose, decimal(amount)])));

test('what an entry does is said for each purpose, debits and credits each in their own words, in the order of the chart', () => {
  expect(said(['payable', '-12.5'], ['inventory', '10'])).toEqual(['Stock is worth 10.00 more.', '12.50 more is owed.']);
  expect(said(['inventory', '-10'], ['payable', '12.5'])).toEqual(['Stock is worth 10.00 less.', '12.50 less is owed.']);
  expect(said(['grni', '3'], ['credits-expected', '2'])).toEqual([
    '3.00 of goods received are now billed.',
    '2.00 is to be credited by the supplier for what went back.',
  ]);
});
test('nothing is said of what nets to nothing, or of accounts without words', () => {
  expect(said(['inventory', '0'], ['opening', '5'], ['cost-variance', '0.01'])).toEqual([
    '0.01 goes to cost variance, so that no stock is worth less than nothing.',
  ]);
  expect(said()).toEqual([]);
});
