import { expect, test } from '@jest/globals';
import {
  anotherParcel,
  benchRows,
  contentsInWords,
  looseIn,
  packBody,
  packField,
  packingSites,
  packScan,
  parcelsOf,
  reckonedWeight,
  type Packing,
} from './packForm';

const content = (lineId: number, quantity: string, part: object = {}) => ({
  lineId,
  itemId: lineId,
  sku: `SKU-${lineId}`,
  name: 'Goods',
  unit: 'each',
  step: '1',
  lotId: null,
  lot: null,
  quantity,
  weight: '1.5',
  codes: [{ code: `20${lineId}`, factor: '1' }],
  ...part,
});
const parcel = (id: number, contents: ReturnType<typeof content>[], part: object = {}) => ({
  id,
  version: 1,
  number: `PC-${id}`,
  siteId: 1,
  site: 'Barn',
  shipmentId: null,
  weight: null,
  reckoned: null,
  length: null,
  width: null,
  height: null,
  tracking: '',
  whereabouts: '',
  toldAt: null,
  delivered: false,
  contents,
  ...part,
});
const packing = {
  loose: [
    { ...content(1, '2'), siteId: 1, site: 'Barn' },
    { ...content(2, '1', { lotId: 7, lot: 'L7' }), siteId: 1, site: 'Barn' },
    { ...content(3, '9'), siteId: 2, site: 'Harbour' },
  ],
  parcels: [parcel(5, [content(1, '3')]), parcel(6, [content(1, '4')], { shipmentId: 9 })],
  shipments: [],
} as unknown as Packing;
const rows = benchRows(packing, 1);

test('what lies loose and what is in parcels that are not booked may be packed, site by site', () => {
  expect(packingSites(packing)).toEqual([
    { siteId: 1, site: 'Barn' },
    { siteId: 2, site: 'Harbour' },
  ]);
  expect(rows.map(({ lineId, lotId, quantity }) => [lineId, lotId, quantity])).toEqual([
    [1, null, '5'],
    [2, 7, '1'],
  ]);
});

test('a parcel takes everything where there is none yet; another takes what is in none', () => {
  const none = { ...packing, parcels: [] };
  expect(parcelsOf(none, 1, benchRows(none, 1))[0]?.rows).toEqual([{ quantity: '2' }, { quantity: '1' }]);
  const parcels = parcelsOf(packing, 1, rows);
  expect(parcels.map((one) => contentsInWords(one, rows))).toEqual(['3 SKU-1']);
  expect(looseIn(parcels, rows[0] as never, 0)).toBe('2');
  const more = anotherParcel(parcels, rows);
  expect(contentsInWords(more, rows)).toBe('2 SKU-1, 1 SKU-2 (L7)');
  expect(reckonedWeight(more, rows)).toBe('4.5');
  expect(reckonedWeight(more, [{ ...rows[0], weight: null } as never, ...rows.slice(1)])).toBeNull();
});

test('what is sent leaves empty rows out, and what is said of it is said at its own field', () => {
  const [first] = parcelsOf(packing, 1, rows);
  const form = { parcels: [{ ...first, weight: ' 7.25 ', rows: [{ quantity: '' }, { quantity: ' 1 ' }] }] } as never;
  expect(packBody(form, packing, 1, rows)).toEqual({
    siteId: 1,
    seen: [{ id: 5, version: 1 }],
    parcels: [{ id: 5, weight: '7.25', length: null, width: null, height: null, contents: [{ lineId: 2, lotId: 7, quantity: '1' }] }],
  });
  expect(packField('parcels.0.contents.0.quantity', form)).toBe('parcels.0.rows.1.quantity');
  expect(packField('parcels.0.contents', form)).toBe('parcels.0.rows.0.quantity');
  expect(packField('parcels.0.width', form)).toBe('parcels.0.width');
});

test('a scan puts what is in no parcel into one; what is all packed, or is not here, is told', () => {
  const parcels = parcelsOf(packing, 1, rows);
  expect(packScan(parcels, rows, '201')).toEqual({ row: 0, quantity: '1', said: '1 × SKU-1' });
  const full = [...parcels, anotherParcel(parcels, rows)];
  expect(packScan(full, rows, '201')).toEqual({ row: null, said: 'All of SKU-1 is packed already.' });
  expect(packScan(full, rows, '999')).toEqual({ row: null, said: '999 is not on this bench.' });
});
