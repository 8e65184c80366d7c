import { expect, test } from '@jest/globals';
import { levelFaults, readWay, wayFault, wayOf, wayText, type Way } from './levels';

const levels = { reorderPoint: '8', orderUpTo: '24', coverDays: null, packSize: null };
const saidOf = (part: Partial<typeof levels> | { packSize: string }) =>
  levelFaults({ ...levels, ...part }).map(({ field, sentence }) => `${field}: ${sentence}`);

test('levels go together, and a pack is more than nothing', () => {
  expect(saidOf({})).toEqual([]);
  expect(levelFaults({ reorderPoint: null, orderUpTo: null, coverDays: 10, packSize: '6' })).toEqual([]);
  expect(saidOf({ orderUpTo: '8' })).toEqual(['orderUpTo: Order up to more than the reorder point.']);
  expect(levelFaults({ ...levels, orderUpTo: null })[0]?.field).toBe('orderUpTo');
  expect(levelFaults({ ...levels, reorderPoint: null })[0]?.field).toBe('reorderPoint');
  expect(saidOf({ packSize: '0' })).toEqual(['packSize: A pack is more than zero.']);
});

test('a way is told in a word, and read again from it', () => {
  const ways: Way[] = [{ by: 'best' }, { by: 'buy', supplierId: null }, { by: 'buy', supplierId: 12 }, { by: 'bring', siteId: 3 }, { by: 'make' }];
  expect(ways.map(wayText)).toEqual(['best', 'buy', 'buy 12', 'bring 3', 'make']);
  expect(ways.map(wayText).map(wayOf)).toEqual(ways);
});

test('a way leads to one of its suppliers, or to another site', () => {
  const known = { suppliers: [12], sites: [1, 3] };
  expect(wayFault({ by: 'buy', supplierId: 12 }, 1, known)).toBeNull();
  expect(wayFault({ by: 'buy', supplierId: 13 }, 1, known)).toBe('It is not bought from this supplier; choose one of its own.');
  expect(wayFault({ by: 'bring', siteId: 3 }, 1, known)).toBeNull();
  expect(wayFault({ by: 'bring', siteId: 1 }, 1, known)).toBe('A site cannot bring from itself.');
  expect(wayFault({ by: 'bring', siteId: 9 }, 1, known)).toBe('There is no such site in use.');
  expect(wayFault({ by: 'make' }, 1, known)).toBeNull();
});

test('a way in the words of a file', () => {
  const idOf = { supplier: (name: string) => (name === 'Hexley Joinery' ? 12 : undefined), site: (name: string) => (name === 'Barn store' ? 3 : undefined) };
  const read = (text: string) => readWay(text, idOf);
  expect(['', 'Best', 'MAKE', ' buy '].map(read)).toEqual([{ by: 'best' }, { by: 'best' }, { by: 'make' }, { by: 'buy', supplierId: null }]);
  expect([read('buy from Hexley Joinery'), read('Bring from Barn store')]).toEqual([
    { by: 'buy', supplierId: 12 },
    { by: 'bring', siteId: 3 },
  ]);
  expect([read('buy from Nobody'), read('bring from Nowhere')]).toEqual(['There is no supplier “Nobody”.', 'There is no site “Nowhere”.']);
  expect(read('steal')).toBe('Write how it comes as best, buy, buy from a supplier, bring from a site, or make.');
});
