import { expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { beyond } from './extra';

const still = (outstanding: number) => () => decimal(outstanding);
const said = (...given: Parameters<typeof beyond>) => {
  const found = beyond(...given);
  return found && [found.index, found.total.toFixed(), found.over.toFixed()];
};

test('as many as are still to come need no consent, more do', () => {
  expect(said([{ lineId: 1, quantity: '5' }], still(5))).toBeNull();
  expect(said([{ lineId: 1, quantity: '5.5' }], still(5))).toEqual([0, '5.5', '0.5']);
});
test('all that comes on one order line counts together, whichever bin it goes to', () => {
  const lines = [
    { lineId: 1, quantity: '3' },
    { lineId: 2, quantity: '5' },
    { lineId: 1, quantity: '4' },
  ];
  expect(said(lines, still(5))).toEqual([2, '7', '2']);
});
test('consent is for that line and that many', () => {
  expect(said([{ lineId: 1, quantity: '7', extra: '2' }], still(5))).toBeNull();
  expect(said([{ lineId: 1, quantity: '8', extra: '2' }], still(5))).toEqual([0, '8', '3']);
  expect(
    said(
      [
        { lineId: 1, quantity: '7', extra: '2' },
        { lineId: 2, quantity: '6' },
      ],
      still(5),
    ),
  ).toEqual([1, '6', '1']);
});
