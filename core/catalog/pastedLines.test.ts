import { expect, test } from '@jest/globals';
import { readPastedLines } from './pastedLines';

const read = (text: string) => readPastedLines(text.split('\n').map((line) => line.split('|'))).map(({ quantity, code }) => `${quantity} ${code}`);

test('code and quantity are told apart in either order, with or without heads of columns', () => {
  expect(read('SKEP-S|12\nJAR-340-GLD|240')).toEqual(['12 SKEP-S', '240 JAR-340-GLD']);
  expect(read('12|SKEP-S|Straw skep\n240|JAR-340-GLD|')).toEqual(['12 SKEP-S', '240 JAR-340-GLD']);
  expect(read('Code|Name|Quantity\nSKEP-S|Straw skep|12\n||\nJAR|Jar|1,200')).toEqual(['12 SKEP-S', '1200 JAR']);
  expect(read('SKEP-S|')).toEqual(['1 SKEP-S']);
});

test('of two columns of numbers the shorter one is how many', () => {
  expect(read('5012345678900|6\n5012345678917|12')).toEqual(['6 5012345678900', '12 5012345678917']);
  expect(read('6|5012345678900\n12|5012345678917')).toEqual(['6 5012345678900', '12 5012345678917']);
});

test('one column is lines as they are typed; nothing is nothing', () => {
  expect(read('12 skep\nsmoker 3\n5012345678900\n')).toEqual(['12 skep', '3 smoker', '1 5012345678900']);
  expect(readPastedLines([])).toEqual([]);
  expect(readPastedLines([['', ''], ['']])).toEqual([]);
});

test('a quantity that is none makes no column of numbers: nothing is guessed', () => {
  expect(read('SKEP-S|12\nJAR|some')).toEqual(['1 SKEP-S', '1 JAR']);
});
