import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { parseLineEntry } from './lineEntry';

describe('one field for how many and what', () => {
  test.each([
    ['12 smoker', '12', 'smoker'],
    ['smoker 12', '12', 'smoker'],
    ['12 x smoker', '12', 'smoker'],
    ['12x smoker', '12', 'smoker'],
    ['12× smoker', '12', 'smoker'],
    ['smoker x 12', '12', 'smoker'],
    ['smoker x12', '12', 'smoker'],
    ['2.5 sugar', '2.5', 'sugar'],
    ['  3   clear   jar ', '3', 'clear jar'],
    ['smoker', '1', 'smoker'],
    ['strips 10 pack', '1', 'strips 10 pack'],
    ['4 strips 10 pack', '4', 'strips 10 pack'],
    ['4 jar 340', '4', 'jar 340'],
  ])('%s', (typed, quantity, words) => {
    expect(parseLineEntry(typed)).toEqual({ quantity, words });
  });
  test('a lone number is what was scanned, not how many', () => {
    expect(parseLineEntry('6291041500213')).toEqual({ quantity: '1', words: '6291041500213' });
  });
  test('what is no number belongs to the words', () => {
    expect(parseLineEntry('-3 smoker')).toEqual({ quantity: '1', words: '-3 smoker' });
    expect(parseLineEntry('1e3 smoker')).toEqual({ quantity: '1', words: '1e3 smoker' });
    expect(parseLineEntry('12. smoker')).toEqual({ quantity: '1', words: '12. smoker' });
  });
  test('nothing typed is nothing', () => {
    expect(parseLineEntry('')).toBeNull();
    expect(parseLineEntry('   ')).toBeNull();
  });
  test('a number in front is always how many, and no word is lost', () => {
    const word = fc.stringMatching(/^[a-w][a-w-]{1,8}$/);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 99999 }), fc.array(word, { minLength: 1, maxLength: 4 }), (quantity, words) => {
        const said = { quantity: String(quantity), words: words.join(' ') };
        expect(parseLineEntry(`${quantity} ${words.join('  ')}`)).toEqual(said);
        expect(parseLineEntry(`${words.join(' ')} ${quantity}`)).toEqual(said);
      }),
    );
  });
});
