import { expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { addsUp, netOf, pictureOf, type Flow } from './tracePicture';

const flow = (key: string, quantity: number): Flow => ({ key, words: `words of ${key}`, quantity: decimal(quantity) });
const flows = {
  came: [flow('PO-1', 20), flow('PO-2', 4)],
  here: [flow('A-1', 9)],
  held: [flow('LN-1', 2)],
  went: [flow('SO-1', 8), flow('SO-2', 5), flow('SO-3', 0)],
};

test('what came flows in, and on to where it lies, who has it and who got it; nothing is left out', () => {
  const { nodes, links } = pictureOf(flows, 'R1');
  expect(nodes.map(({ key }) => key)).toEqual(['came PO-1', 'came PO-2', 'lot', 'here A-1', 'held LN-1', 'went SO-1', 'went SO-2']);
  expect(links.map(({ from, to, quantity }) => `${from} > ${to}: ${quantity.toFixed()}`)).toEqual([
    'came PO-1 > lot: 20',
    'came PO-2 > lot: 4',
    'lot > here A-1: 9',
    'lot > held LN-1: 2',
    'lot > went SO-1: 8',
    'lot > went SO-2: 5',
  ]);
  expect(addsUp(links)).toBe(true);
  expect(addsUp(links.slice(1))).toBe(false);
});

test('what went back is taken off', () => expect(netOf({ quantity: '8', back: '3' }).toFixed()).toBe('5'));
