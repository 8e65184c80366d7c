import { expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { lotFaults, takeLots } from './lots';

const lot = (code: string, quantity = '1') => ({ code, quantity, useBy: null });
const said = (...given: Parameters<typeof lotFaults>) => lotFaults(...given).map(({ field, sentence }) => `${field}: ${sentence}`);

test('serials are as many as the quantity, each once and one unit', () => {
  expect(said('serial', 'EX-3', decimal(3), [lot('A1')], 'lots')).toEqual(['lots: 2 serials of EX-3 still missing.']);
  expect(said('serial', 'EX-3', decimal(1), [lot('A1'), lot('A2')], 'lots')).toEqual(['lots: 1 serial of EX-3 too many.']);
  expect(said('serial', 'EX-3', decimal(2), [lot('A1'), lot('a1')], 'lots')).toEqual(['lots.1.code: a1 is given twice.']);
  expect(said('serial', 'EX-3', decimal(2), [lot('A1'), lot('A2', '2')], 'lots')).toEqual(['lots.1.quantity: A serial is one unit.']);
  expect(said('serial', 'EX-3', decimal(2), [lot('A1'), lot('A2')], 'lots')).toEqual([]);
});

test('lots add up to the quantity', () => {
  expect(said('lot', 'FON', decimal('7.5'), [lot('L1', '5'), lot('L2', '2.5')], 'lots')).toEqual([]);
  expect(said('lot', 'FON', decimal(7), [lot('L1', '5')], 'lots')).toEqual(['lots: 2 in lots of FON still missing.']);
});

test('what is not tracked has none', () => {
  expect(said('none', 'NAIL', decimal(7), [lot('L1', '7')], 'lots')).toEqual(['lots: NAIL is kept without lots or serials.']);
  expect(said('none', 'NAIL', decimal(7), [], 'lots')).toEqual([]);
});

test('a dispatch takes the lots on the bench in turn', () => {
  const bench = [
    { lotId: 1, quantity: decimal(5) },
    { lotId: 2, quantity: decimal(4) },
  ];
  const taken = (many: number) => takeLots(bench, decimal(many)).map(({ lotId, quantity }) => `${lotId ?? 'none'}:${quantity.toFixed()}`);
  expect(taken(3)).toEqual(['1:3']);
  expect(taken(7)).toEqual(['1:5', '2:2']);
  expect(taken(10)).toEqual(['1:5', '2:4', 'none:1']);
});

test('a tag is on one serial unit, and on nothing else', () => {
  const tagged = (code: string, tag: string) => ({ ...lot(code), tag });
  expect(said('serial', 'EX-3', decimal(2), [tagged('A1', 'T-1'), tagged('A2', 'T-2')], 'lots')).toEqual([]);
  expect(said('serial', 'EX-3', decimal(2), [tagged('A1', 'T-1'), tagged('A2', 't-1')], 'lots')).toEqual(['lots.1.tag: The tag t-1 is given twice.']);
  expect(said('lot', 'FON', decimal(1), [tagged('L1', 'T-1')], 'lots')).toEqual(['lots.0.tag: Only a serial unit has a tag.']);
});
