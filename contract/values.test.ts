import { describe, expect, test } from '@jest/globals';
import type { z } from 'zod';
import { Code, Day, LotEntry, Money, NeededText, Price, Quantity, QuantityOrZero, ShortText, SignedQuantity, Text } from './values';

/** What is said of each value: nothing when it is taken. */
const said = (type: z.ZodType, ...values: unknown[]): string[] =>
  values.map((value) => {
    const read = type.safeParse(value);
    return read.success ? '' : (read.error.issues[0]?.message ?? '?');
  });
const taken = (type: z.ZodType, ...values: unknown[]) => said(type, ...values).every((sentence) => sentence === '');

describe('numbers are taken as they are typed, never as floats', () => {
  test('a quantity is above zero, below a thousand million, with at most four decimals', () => {
    expect(taken(Quantity, '1', ' 12 ', '0.5', '0.0001', '999999999.9999')).toBe(true);
    expect(said(Quantity, '0', '0.0000')).toEqual(Array(2).fill('The quantity must be more than zero.'));
    const form = 'Give a quantity such as 12 or 0.5, below 1,000,000,000, with at most 4 decimals.';
    expect(said(Quantity, '', '-1', '1e3', '1,5', '1.00001', '1000000000', '٣', '1 000')).toEqual(Array(8).fill(form));
    expect(said(Quantity, 5, null).every((sentence) => sentence !== '')).toBe(true);
  });
  test('none is a quantity where it may be; a difference has a sign', () => {
    expect(taken(QuantityOrZero, '0', '0.0', '7')).toBe(true);
    expect(taken(SignedQuantity, '-3', '+2.5', '4', '0')).toBe(true);
    expect(said(SignedQuantity, '--3', '- 3', '3-')).toEqual(Array(3).fill('Give a difference such as 3 or -2, with at most 4 decimals.'));
  });
  test('a price may be nothing and has six decimals; an amount of money is above nothing and has two', () => {
    expect(taken(Price, '0', '12.50', '0.000001', '999999999')).toBe(true);
    expect(said(Price, '-1', '0.0000001', '12,50')).toEqual(Array(3).fill('Give a price such as 12.50, with at most 6 decimals.'));
    expect(taken(Money, '0.01', '640', '999999999999.99')).toBe(true);
    expect(said(Money, '0', '0.00')).toEqual(Array(2).fill('The amount must be more than zero.'));
    expect(said(Money, '1.005', '', '£5')).toEqual(Array(3).fill('Give an amount such as 640.00.'));
  });
});

describe('words are kept as they are written', () => {
  test('in any script, with line breaks where there is room, without what cannot be seen or kept', () => {
    expect(taken(Text, 'Zwei\nZeilen\tund mehr', 'עברית', '蜂蜜', '<script>alert(1)</script>', '🐝')).toBe(true);
    expect(said(Text, 'bell\u0007', 'null\u0000')).toEqual(Array(2).fill('The text holds characters that cannot be kept.'));
    expect(said(Text, 'x'.repeat(2001))).toEqual(['At most 2,000 characters.']);
    expect(said(ShortText, 'x'.repeat(201))).toEqual(['At most 200 characters.']);
    expect(said(NeededText, '', '   ')).toEqual(Array(2).fill('This must be filled.'));
  });
  test('a code is one line of what can be printed, without blanks around it', () => {
    expect(Code.parse('  SM-STD ')).toBe('SM-STD');
    expect(taken(Code, 'a b', 'Ä-1', '#/\\')).toBe(true);
    expect(said(Code, '')[0]).toBe('This must be filled.');
    expect(said(Code, 'two\nlines', 'turned\u202eround')).toEqual(Array(2).fill('Only characters that can be printed.'));
    expect(said(Code, 'x'.repeat(61))).toEqual(['At most 60 characters.']);
  });
});

test('a day exists, and is written year, month, day', () => {
  expect(taken(Day, '2026-11-24', '2028-02-29')).toBe(true);
  expect(said(Day, '2026-02-29', '24/11/2026', '2026-1-1', 'today', '')).toEqual(Array(5).fill('Give a day that exists, such as 24 Nov or +7.'));
});

test('a lot is one unit of no particular day, unless it says otherwise', () => {
  expect(LotEntry.parse({ code: 'L-1' })).toEqual({ code: 'L-1', useBy: null, quantity: '1' });
  expect(LotEntry.parse({ code: 'L-1', useBy: '2027-01-31', quantity: '5', tag: ' TL-1 ' })).toEqual({
    code: 'L-1',
    useBy: '2027-01-31',
    quantity: '5',
    tag: 'TL-1',
  });
});
