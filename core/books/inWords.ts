import { zero, type Decimal } from '../decimal';
import type { BookPurpose } from './purpose';

const words: Partial<Record<BookPurpose, [more: string, less: string]>> = {
  inventory: ['Stock is worth {} more.', 'Stock is worth {} less.'],
  grni: ['{} of goods received are now billed.', '{} of goods received wait for a bill again.'],
  'credits-expected': ['{} is to be credited by the supplier for what went back.', '{} less is to be credited by the supplier.'],
  payable: ['{} less is owed.', '{} more is owed.'],
  receivable: ['{} more is owed by customers.', '{} less is owed by customers.'],
  sales: ['{} comes off sales.', '{} is sold.'],
  'sales-tax': ['{} less tax on sales is owed.', '{} tax on sales is owed.'],
  'freight-income': ['{} comes off freight charged.', '{} freight is charged.'],
  'landed-clearing': ['{} of estimated charges are cleared.', '{} of charges are expected from bills to come.'],
  'cost-of-sales': ['{} is for goods that have been sold already: it goes to cost of sales.', '{} comes off the cost of goods sold.'],
  'price-variance': ['{} is for goods that have gone already: it goes to price variance.', '{} comes off price variance.'],
  'cost-variance': ['{} goes to cost variance, so that no stock is worth less than nothing.', '{} comes off cost variance.'],
  'landed-variance': ['Charges came to {} more than estimated: landed cost variance.', 'Charges came to {} less than estimated: landed cost variance.'],
  'carriage-clearing': ['{} of parcels sent are now billed.', '{} of parcels sent wait for their carrier’s bill.'],
  'carriage-variance': ['Parcels came to {} more than booked.', 'Parcels came to {} less than booked.'],
  'outbound-freight': ['{} goes to freight on sales.', '{} comes off freight on sales.'],
  'purchase-tax': ['{} tax can be claimed back.', '{} less tax can be claimed back.'],
  'exchange-difference': ['{} was lost by the exchange rate.', '{} was won by the exchange rate.'],
  bank: ['{} comes into the bank.', '{} leaves the bank.'],
};

/** What an entry does, in sentences: one for each purpose that has words, in the order of the chart. Debits are above zero. */
export function inWords(totals: ReadonlyMap<BookPurpose, Decimal>): string[] {
  return (Object.keys(words) as BookPurpose[]).flatMap((purpose) => {
    const amount = totals.get(purpose) ?? zero;
    const pair = words[purpose];
    return amount.isZero() || !pair ? [] : [pair[amount.gt(zero) ? 0 : 1].replace('{}', amount.abs().toFixed(2))];
  });
}
