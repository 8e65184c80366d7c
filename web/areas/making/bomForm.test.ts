import { expect, test } from '@jest/globals';
import type { Bom } from '@larder/contract/making';
import { bomBody, bomDraft, bomField, isReckonable, type BomDraft } from './bomForm';

const named = (itemId: number, sku: string) => ({ itemId, sku, name: `The ${sku}`, unit: 'each' });
const bom: Bom = {
  id: 4,
  version: 3,
  ...named(1, 'HIVE'),
  number: 2,
  label: 'winter',
  startsOn: '2026-03-01',
  state: 'in use',
  makes: '2',
  share: null,
  parts: [
    {
      ...named(2, 'BOX'),
      unitId: 9,
      writtenIn: 'case',
      units: [{ unitId: 9, unit: 'case', factor: '6' }],
      quantity: '0.5',
      waste: '0',
      note: '',
      alternatives: [{ ...named(3, 'CRATE'), quantity: '3' }],
    },
  ],
  costs: [{ name: 'Joiner', per: 'hour', quantity: '0.5', rate: '18', accountId: 7 }],
  byProducts: [],
  steps: 'Nail',
  note: '',
  versions: [],
};

test('what was written comes into the form and goes back as it was', () => {
  expect(bomBody(bomDraft(bom, '2026-11-23', null))).toEqual({
    itemId: 1,
    name: 'winter',
    startsOn: '2026-03-01',
    makes: '2',
    share: null,
    parts: [{ itemId: 2, unitId: 9, quantity: '0.5', waste: '0', note: '', alternatives: [{ itemId: 3, quantity: '3' }] }],
    costs: [{ name: 'Joiner', per: 'hour', quantity: '0.5', rate: '18', accountId: 7 }],
    byProducts: [],
    steps: 'Nail',
    note: '',
  });
});

test('another version begins today, without the name of the one it is copied from', () => {
  expect(bomDraft(bom, '2026-11-23', null, true)).toMatchObject({ name: '', startsOn: '2026-11-23', makes: '2', parts: [{ sku: 'BOX', waste: '' }] });
  expect(bomDraft(null, '2026-11-23', named(1, 'HIVE'))).toMatchObject({ item: { sku: 'HIVE' }, startsOn: '2026-11-23', parts: [] });
});

test('what is wrong with an item stands where its quantity is typed', () => {
  expect(['itemId', 'parts.2.itemId', 'parts.0.alternatives.1.itemId', 'byProducts.0.itemId', 'parts.1.waste', 'costs.0.accountId'].map(bomField)).toEqual([
    'item',
    'parts.2.quantity',
    'parts.0.alternatives.1.quantity',
    'byProducts.0.quantity',
    'parts.1.waste',
    'costs.0.accountId',
  ]);
});

test('it is reckoned once it names what is made, of what, and how many of each', () => {
  const typed = (part: Partial<BomDraft>) => isReckonable(bomBody({ ...bomDraft(bom, '2026-11-23', null), ...part }));
  expect(typed({})).toBe(true);
  expect(typed({ item: null })).toBe(false);
  expect(typed({ parts: [] })).toBe(false);
  expect(typed({ makes: '' })).toBe(false);
  expect(typed({ costs: [{ name: '', per: 'hour', quantity: '1', rate: '1', accountId: 7 }] })).toBe(false);
});
