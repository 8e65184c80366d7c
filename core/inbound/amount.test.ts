import { describe, expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { billedAmount, clearedBy, inCompany, receiptValue, type BilledPart } from './amount';

const had = (quantity: string, amount: string) => ({ quantity: decimal(quantity), amount: decimal(amount) });
const line = (amount: string, baseQuantity: string, rate = '1') => ({ amount: decimal(amount), baseQuantity: decimal(baseQuantity), rate: decimal(rate) });

describe('receipts of a line', () => {
  test('more than ordered goes on at the same price; another currency by its rate, rounded once for the line', () => {
    expect(receiptValue(line('10', '3'), had('3', '10'), decimal(1)).toFixed(2)).toBe('3.33');
    expect(receiptValue(line('10', '3', '0.85'), had('0', '0'), decimal(3)).toFixed(2)).toBe('8.50');
    expect(receiptValue(line('21', '3', '0.00525'), had('1', '0.04'), decimal(1)).toFixed(2)).toBe('0.03');
  });
});

describe('what a bill clears of goods received', () => {
  const clears = (received: [string, string], billed: [string, string], quantity: number) =>
    clearedBy(line('10', '3'), had(...received), had(...billed), decimal(quantity)).toFixed(2);
  test('the cumulative share, and all that is left once as many are billed as came', () => {
    expect(clears(['3', '10'], ['0', '0'], 1)).toBe('3.33');
    expect(clears(['3', '10'], ['1', '3.33'], 1)).toBe('3.34');
    // a part was undone: 6.66 stand for two
    expect(clears(['2', '6.66'], ['0', '0'], 2)).toBe('6.66');
    expect(clears(['2', '6.66'], ['1', '3.33'], 1)).toBe('3.33');
  });
  test('a credit for what went back takes off what is expected for it', () => {
    expect(clears(['2', '6.67'], ['3', '10'], -1)).toBe('-3.33');
    expect(clears(['0', '0'], ['3', '10'], -1)).toBe('-3.33');
    expect(clears(['0', '0'], ['1', '3.33'], -1)).toBe('-3.33');
  });
});

describe('what bills count', () => {
  const one = { numerator: decimal(1), denominator: decimal(1) };
  test('three bills of 1 at 3.333333 come to 10.00', () => {
    const parts: BilledPart[] = [];
    const amounts = [1, 2, 3].map(() => {
      const amount = billedAmount(parts, decimal(1), decimal('3.333333'), one, 2);
      parts.push({ quantity: decimal(1), price: decimal('3.333333'), amount });
      return amount.toFixed(2);
    });
    expect(amounts).toEqual(['3.33', '3.34', '3.33']);
  });
  test('in cases of 12 at a price for 100, in a currency without decimals', () => {
    expect(billedAmount([], decimal(24), decimal(450), { numerator: decimal(2), denominator: decimal(24).times(100) }, 2).toFixed(2)).toBe('9.00');
    expect(billedAmount([], decimal(1), decimal('7.5'), one, 0).toFixed()).toBe('8');
  });
  test('in company currency all parts are rounded once: 7, 7 and 7 JPY are 0.11', () => {
    const parts: { amount: ReturnType<typeof decimal>; rate: ReturnType<typeof decimal>; company: ReturnType<typeof decimal> }[] = [];
    const told = [7, 7, 7].map((yen) => {
      const company = inCompany(parts, decimal(yen), decimal('0.00525'));
      parts.push({ amount: decimal(yen), rate: decimal('0.00525'), company });
      return company.toFixed(2);
    });
    expect(told).toEqual(['0.04', '0.03', '0.04']);
  });
});
