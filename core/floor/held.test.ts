import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal } from '../decimal';
import { beyondLying, contentsOf, foundHere, lyingAfter, meantBy, whereItLies, type HeldItem, type HeldSite, type Lying, type MovedHere } from './held';

const item = (id: number, sku: string, name: string, part: Partial<HeldItem> = {}): HeldItem => ({
  id,
  sku,
  name,
  unit: 'each',
  step: '1',
  tracking: 'none',
  seq: 0,
  codes: [{ code: sku, factor: '1' }],
  supplierCodes: [],
  ...part,
});
const barn: HeldSite = {
  siteId: 1,
  site: 'Barn store',
  at: '2026-03-10T10:00:00Z',
  items: [
    item(1, 'SM-STD', 'Smoker, standard', {
      codes: [
        { code: 'SM-STD', factor: '1' },
        { code: '4006381333931', factor: '1' },
        { code: '14006381333938', factor: '12' },
      ],
    }),
    item(2, 'SCALE', 'Hive scale', { tracking: 'serial', codes: [{ code: 'SCALE', factor: '1' }] }),
    item(3, 'FOND', 'Winter fondant', { tracking: 'lot', supplierCodes: ['HX-77'] }),
  ],
  lots: [
    { id: 20, itemId: 2, code: 'S-0001', tag: 'EQ-1', useBy: null, pastUse: false },
    { id: 30, itemId: 3, code: 'FD26', tag: null, useBy: '2026-11-23', pastUse: false },
  ],
  bins: [
    { id: 5, code: 'B-01', sellable: true },
    { id: 6, code: 'B-02', sellable: true },
    { id: 7, code: 'QUA', sellable: false },
  ],
  lying: [
    { itemId: 1, lotId: null, binId: 5, quantity: '4' },
    { itemId: 3, lotId: 30, binId: 5, quantity: '2.5' },
    { itemId: 2, lotId: 20, binId: 6, quantity: '1' },
    { itemId: 1, lotId: null, binId: 7, quantity: '1' },
  ],
};

test('a bin’s contents by SKU, a serial unit by its own codes; a bin of another site is not known', () => {
  expect(contentsOf(barn, 5)?.rows.map(({ sku, lot, useBy, quantity }) => [sku, lot, useBy, quantity])).toEqual([
    ['FOND', 'FD26', '2026-11-23', '2.5'],
    ['SM-STD', null, null, '4'],
  ]);
  expect(contentsOf(barn, 6)?.rows[0]?.codes).toEqual([
    { code: 'S-0001', factor: '1' },
    { code: 'EQ-1', factor: '1' },
  ]);
  expect(contentsOf(barn, 99)).toBeNull();
});

test('a code means its item: a case its pieces, a serial its unit, a supplier’s code one, a GS1 string as many as it says; an unknown one nothing', () => {
  const meant = (code: string) => meantBy(barn, code).items.map(({ sku, factor, lotId }) => [sku, factor, lotId]);
  expect(meant('sm-std')).toEqual([['SM-STD', '1', null]]);
  expect(meant('14006381333938')).toEqual([['SM-STD', '12', null]]);
  expect(meant('EQ-1')).toEqual([['SCALE', '1', 20]]);
  expect(meant('HX-77')).toEqual([['FOND', '1', null]]);
  expect(meant('NOTHING')).toEqual([]);
  expect(meantBy(barn, '(02)14006381333938(37)3')).toMatchObject({ items: [{ sku: 'SM-STD', factor: '12' }], quantity: '36' });
  expect(meantBy(barn, '(01)04006381333931(10)L7(17)261231')).toMatchObject({ items: [{ sku: 'SM-STD' }], lot: 'L7', useBy: '2026-12-31' });
});

test('words find items in any order, codes find lots, units and bins; what it is exactly stands first', () => {
  const found = (q: string) => foundHere(barn, q).map(({ kind, code, exact }) => [kind, code, exact]);
  expect(found('standard smok')).toEqual([['item', 'SM-STD', false]]);
  expect(found('EQ-1')).toEqual([['item', 'EQ-1 S-0001', true]]);
  expect(found('fd26')).toEqual([['item', 'FD26', true]]);
  expect(found('b-0')).toEqual([
    ['bin', 'B-01', false],
    ['bin', 'B-02', false],
  ]);
  expect(found('b-02')).toEqual([['bin', 'B-02', true]]);
  expect(found('hive zebra')).toEqual([]);
});

test('where an item lies, quarantine told apart', () => {
  expect(whereItLies(barn, 1)?.rows.map(({ bin, quantity, sellable }) => [bin, quantity, sellable])).toEqual([
    ['B-01', '4', true],
    ['QUA', '1', false],
  ]);
  expect(whereItLies(barn, 99)).toBeNull();
});

const move = (quantity: string, fromBinId: number | null, toBinId: number | null): MovedHere => ({ itemId: 1, lotId: null, quantity, fromBinId, toBinId });

test('more than lies there is found out, also when an earlier move of the same lot took it', () => {
  expect(beyondLying(barn.lying, [move('3', 5, 6), move('1', 5, 6)])).toBeNull();
  expect(beyondLying(barn.lying, [move('3', 5, 6), move('2', 5, 6)])).toEqual({ index: 1, left: '1' });
  expect(beyondLying(barn.lying, [move('5', null, 6), move('5', 6, 5)])).toBeNull();
  expect(beyondLying(barn.lying, [move('1', 6, 5)])).toEqual({ index: 0, left: '0' });
});

test('moves within the site neither make goods nor lose any, and an emptied bin has no row', () => {
  expect(lyingAfter(barn.lying, [move('4', 5, 6)])).toEqual(expect.arrayContaining([{ itemId: 1, lotId: null, binId: 6, quantity: '4' }]));
  expect(lyingAfter(barn.lying, [move('4', 5, 6)]).some(({ itemId, binId }) => itemId === 1 && binId === 5)).toBe(false);
  const total = (lying: readonly Lying[]) => lying.filter(({ itemId }) => itemId === 1).reduce((sum, row) => sum.plus(row.quantity), decimal(0));
  const bins = fc.constantFrom(5, 6, 7);
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 60 }), bins, bins), { maxLength: 30 }), (asked) => {
      let lying: readonly Lying[] = barn.lying;
      for (const [tenths, from, to] of asked) {
        const one = move(decimal(tenths).div(10).toFixed(), from, to);
        if (beyondLying(lying, [one]) === null) lying = lyingAfter(lying, [one]);
      }
      expect(total(lying).toFixed()).toBe('5');
      expect(lying.every(({ quantity }) => decimal(quantity).gt(0))).toBe(true);
    }),
  );
});
