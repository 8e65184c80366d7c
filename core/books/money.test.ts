import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal } from '../decimal';
import { amountFault, amountText, currencyFaults, currencyPlaces, moneyIn } from './currency';
import { ageOfDebt, runningBalance, settledBy, sharedOut } from './payment';

describe('a currency has its own decimals', () => {
  test('two for most, none for the yen, three for the Kuwaiti dinar', () => {
    expect(['GBP', 'JPY', 'KWD', 'XOF', 'XAU', 'ABC'].map(currencyPlaces)).toEqual([2, 0, 3, 0, null, null]);
    expect([moneyIn('JPY', decimal('20.5')), moneyIn('KWD', decimal('1.2345')), moneyIn('???', decimal('1.005'))].map(String)).toEqual(['21', '1.235', '1.01']);
    expect([amountText('JPY', decimal(21)), amountText('KWD', decimal('1.5')), amountText('GBP', decimal(3))]).toEqual(['21', '1.500', '3.00']);
  });
  test('an amount with more of them is refused in words', () => {
    expect(amountFault('21.5', 'JPY')).toBe('JPY has no decimals: give a whole amount.');
    expect(amountFault('1.2345', 'KWD')).toBe('KWD has 3 decimals, no more.');
    expect([amountFault('1.234', 'KWD'), amountFault('21.0', 'JPY'), amountFault('1.2345', '')]).toEqual([null, null, null]);
  });
  test('the own currency has no rate but 1; one that is not there is named', () => {
    expect(currencyFaults('GBP', '2', 'GBP')).toEqual([{ field: 'rate', sentence: "GBP is the business's own currency: its rate is 1." }]);
    expect(currencyFaults('ABC', '2', 'GBP')).toEqual([{ field: 'currency', sentence: 'There is no currency ABC.' }]);
    expect([currencyFaults('GBP', '1.00', 'GBP'), currencyFaults('EUR', '0.85', 'GBP')]).toEqual([[], []]);
  });
});

describe('payments in part', () => {
  const pays = (total: string, owed: string, rate: string, amounts: string[]) => {
    let before = { paid: decimal(0), settled: decimal(0) };
    return amounts.map((amount) => {
      const settled = settledBy({ total: decimal(total), owed: decimal(owed), rate: decimal(rate) }, before, decimal(amount));
      before = { paid: before.paid.plus(amount), settled: before.settled.plus(settled) };
      return settled.toFixed(2);
    });
  };
  test('21 JPY at 0.00525, paid 7 three times: the last takes the rest', () =>
    expect(pays('21', '0.11', '0.00525', ['7', '7', '7'])).toEqual(['0.04', '0.03', '0.04']));
  test('what is paid beyond the bill counts at its rate', () => {
    expect(pays('10', '8.50', '0.85', ['10', '2'])).toEqual(['8.50', '1.70']);
    expect(pays('10', '8.50', '0.85', ['12'])).toEqual(['10.20']);
  });
  test('what is paid back takes off what it was paid too much with, and what is fully credited owes nothing', () => {
    expect(pays('10', '8.50', '0.85', ['12', '-2'])).toEqual(['10.20', '-1.70']);
    expect(pays('0', '0', '0.85', ['2', '-2'])).toEqual(['1.70', '-1.70']);
  });
  test('a bill that is paid owes nothing, however it was paid', () => {
    const amounts = fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(amounts, fc.integer({ min: 1, max: 9_999_999 }), (parts, rate) => {
        const total = parts.reduce((sum, part) => sum + part, 0);
        const owed = decimal(total).times(rate).div(1_000_000).toDecimalPlaces(2).toFixed(2);
        const settled = pays(String(total), owed, decimal(rate).div(1_000_000).toFixed(), parts.map(String));
        expect(settled.reduce((sum, part) => sum.plus(part), decimal(0)).toFixed(2)).toBe(owed);
      }),
    );
  });
});

describe('money of a customer', () => {
  const shared = (amount: string, open: string[]) => sharedOut(decimal(amount), open.map(decimal)).map(String);
  test('pays invoices in their order; the last gets what is left over, and one that is paid too much gets nothing', () => {
    expect(shared('30', ['10', '15', '20'])).toEqual(['10', '15', '5']);
    expect(shared('50', ['10', '-3', '20'])).toEqual(['10', '0', '40']);
    expect(shared('4', ['10', '5'])).toEqual(['4', '0']);
  });
  test('is due for so long', () =>
    expect([-3, 0, 1, 30, 31, 60, 61].map(ageOfDebt)).toEqual([
      'not due',
      'not due',
      '1 to 30 days',
      '1 to 30 days',
      '31 to 60 days',
      '31 to 60 days',
      'longer',
    ]));
  test('stands at what came before and each line after it', () =>
    expect(runningBalance(decimal(5), [{ amount: decimal(10) }, { amount: decimal('-2.5') }]).map(({ balance }) => String(balance))).toEqual(['15', '12.5']));
});
