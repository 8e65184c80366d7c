import { expect, test } from '@jest/globals';
import { twiceAt } from './twice';

test('the first that repeats one before it, whatever its capitals', () => {
  const at = (...words: (string | undefined)[]) => twiceAt(words, (word) => word);
  expect(at('a', 'b', 'c')).toBe(-1);
  expect(at('a', 'b', 'A', 'b')).toBe(2);
  expect(at(undefined, 'a', undefined)).toBe(-1);
  expect(at()).toBe(-1);
});
test('a long list is looked through once', () => {
  let asked = 0;
  const list = Array.from({ length: 5000 }, (_, n) => String(n));
  expect(twiceAt(list, (word) => ((asked += 1), word))).toBe(-1);
  expect(asked).toBe(5000);
});
