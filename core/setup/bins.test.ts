import { expect, test } from '@jest/globals';
import { binCodes, binPath } from './bins';

test('a pattern makes every bin of a shelf, in walking order', () => {
  const codes = binCodes('B-{01..06}-{1..4}');
  expect(codes).toHaveLength(24);
  expect([codes[0], codes[3], codes[4], codes[23]]).toEqual(['B-01-1', 'B-01-4', 'B-02-1', 'B-06-4']);
  expect(binCodes('{A..C}{9..11}')).toEqual(['A9', 'A10', 'A11', 'B9', 'B10', 'B11', 'C9', 'C10', 'C11']);
  expect(binCodes('RACK-{left,right}')).toEqual(['RACK-left', 'RACK-right']);
  expect(binCodes('CRATE')).toEqual(['CRATE']);
});

test.each([
  ['B-{06..01}', 'backwards'],
  ['B-{1..A}', 'no range'],
  ['B-{1..4', 'brace'],
  ['B-{1,,2}', 'lacks a value'],
  ['{1..99}-{1..99}', 'more than'],
  ['{1..99999}', 'more than'],
])('%p is refused in words', (pattern, words) => {
  expect(() => binCodes(pattern)).toThrow(words);
});

test('aisle and bay are read from the code', () => {
  expect(binPath('B-03-2')).toEqual({ aisle: 'B', bay: 'B-03' });
  expect(binPath('WALL-1')).toEqual({ aisle: 'WALL', bay: '' });
  expect(binPath('CRATE')).toEqual({ aisle: '', bay: '' });
});
