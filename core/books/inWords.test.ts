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
test('every purpose that can stand in an entry of a bill, a payment or a charge has a sentence each way', () => {
  const purposes = [
    'inventory',
    'grni',
    'credits-expected',
    'payable',
    'landed-clearing',
    'cost-of-sales',
    'price-variance',
    'cost-variance',
    'landed-variance',
    'purchase-tax',
    'exchange-difference',
    'bank',
  ] as const;
  const both = (amount: string) => said(...purposes.map((purpose): [BookPurpose, string] => [purpose, amount]));
  expect(both('1.20')).toEqual([
    'Stock is worth 1.20 more.',
    '1.20 of goods received are now billed.',
    '1.20 is to be credited by the supplier for what went back.',
    '1.20 less is owed.',
    '1.20 of estimated charges are cleared.',
    '1.20 is for goods that have been sold already: it goes to cost of sales.',
    '1.20 is for goods that have gone already: it goes to price variance.',
    '1.20 goes to cost variance, so that no stock is worth less than nothing.',
    'Charges came to 1.20 more than estimated: landed cost variance.',
    '1.20 tax can be claimed back.',
    '1.20 was lost by the exchange rate.',
    '1.20 comes into the bank.',
  ]);
  expect(both('-1.20')).toEqual([
    'Stock is worth 1.20 less.',
    '1.20 of goods received wait for a bill again.',
    '1.20 less is to be credited by the supplier.',
    '1.20 more is owed.',
    '1.20 of charges are expected from bills to come.',
    '1.20 comes off the cost of goods sold.',
    '1.20 comes off price variance.',
    '1.20 comes off cost variance.',
    'Charges came to 1.20 less than estimated: landed cost variance.',
    '1.20 less tax can be claimed back.',
    '1.20 was won by the exchange rate.',
    '1.20 leaves the bank.',
  ]);
});
