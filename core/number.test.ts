import { expect, test } from '@jest/globals';
import { isNumber, numberPart, readNumber } from './number';

test('numbers as they are typed: so many digits and decimals as their kind has, a sign only where it may be', () => {
  for (const [text, fits] of [
    ['12', true],
    [' 0.5 ', true],
    ['999999999.9999', true],
    ['1000000000', false],
    ['0.50001', false],
    ['-3', false],
    ['1,000', false],
    ['.5', false],
    ['5.', false],
    ['1e3', false],
    ['', false],
  ] as const)
    expect([text, isNumber(text, 'quantity')]).toEqual([text, fits]);
  expect(isNumber('-3', 'difference') && isNumber('+3', 'difference')).toBe(true);
  expect(isNumber('0.000001', 'price') && !isNumber('0.0000001', 'price')).toBe(true);
  expect([isNumber('640.123', 'money'), isNumber('640.123', 'amount')]).toEqual([false, true]);
  expect([isNumber('123456.12345678', 'rate'), isNumber('1234567', 'rate')]).toEqual([true, false]);
});

test('what is read is what was typed, to the last digit, and nothing where it is none', () => {
  expect(readNumber(' 12.3400 ', 'quantity')?.toFixed(4)).toBe('12.3400');
  expect(readNumber('twelve', 'quantity')).toBeNull();
  expect(readNumber('-0.5', 'difference')?.toFixed()).toBe('-0.5');
});

test('a part of a longer text, without what is around it', () => {
  expect(new RegExp(`^(${numberPart('quantity')})x$`).exec('12.5x')?.[1]).toBe('12.5');
});
