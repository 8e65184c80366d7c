import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { looseOf, packFaults, takenFromParcels, weightOf, type Content, type OnBench, type ParcelAsked } from './packing';

const content = (lineId: number, quantity: string, lotId: number | null = null): Content => ({ lineId, lotId, quantity });
const lies = (lineId: number, quantity: string, lotId: number | null = null): OnBench => ({ lineId, lotId, quantity, sku: `SKU-${lineId}` });
const parcel = (contents: Content[], part: Partial<ParcelAsked> = {}): ParcelAsked => ({
  weight: null,
  length: null,
  width: null,
  height: null,
  contents,
  ...part,
});

describe('parcels', () => {
  test('take what lies on the bench, lot by lot, and no more of it than there is', () => {
    const bench = [lies(1, '5'), lies(2, '1', 7), lies(2, '1', 8)];
    expect(packFaults([parcel([content(1, '3')]), parcel([content(1, '2'), content(2, '1', 8)])], bench)).toEqual([]);
    expect(packFaults([parcel([content(1, '3')]), parcel([content(1, '2.5'), content(2, '1', 9)])], bench)).toEqual([
      { field: 'parcels.1.contents.0.quantity', sentence: 'Only 2 of SKU-1 lie on the bench and in no other parcel.' },
      { field: 'parcels.1.contents.1.quantity', sentence: 'Nothing more of this lies on the bench.' },
    ]);
    expect(packFaults([parcel([content(2, '1', 7)]), parcel([content(2, '1', 7)])], bench)).toEqual([
      { field: 'parcels.1.contents.0.quantity', sentence: 'Nothing more of SKU-2 lies on the bench.' },
    ]);
  });

  test('that hold nothing, or are measured in part, say so', () => {
    expect(packFaults([parcel([])], [])).toEqual([{ field: 'parcels.0.contents', sentence: 'Nothing is in this parcel. Put something in, or remove it.' }]);
    expect(packFaults([parcel([content(1, '1')], { length: 40, height: 10 })], [lies(1, '1')])).toEqual([
      { field: 'parcels.0.width', sentence: 'Give length, width and height, or none of them.' },
    ]);
  });

  test('what is in no parcel and what is in one is all that lies on the bench', () => {
    const pieces = fc.integer({ min: 0, max: 20 });
    fc.assert(
      fc.property(fc.array(fc.tuple(pieces, pieces), { minLength: 1, maxLength: 6 }), (rows) => {
        const bench = rows.map(([many], index) => lies(index, String(many)));
        const packed = rows.map(([many, some], index) => content(index, String(Math.min(many, some))));
        const loose = looseOf(bench, packed);
        for (const [index, [many, some]] of rows.entries())
          expect(Number(loose.find(({ lineId }) => lineId === index)?.quantity ?? 0)).toBe(many - Math.min(many, some));
        expect(packFaults([parcel(loose)], loose).length).toBe(loose.length === 0 ? 1 : 0);
        expect(takenFromParcels(bench, packed, loose)).toEqual([]);
      }),
      { seed: 20261129 },
    );
  });
});

test('what leaves the bench out of a parcel is told by its item; what was packed beyond the bench before is not held against what leaves of others', () => {
  const bench = [lies(1, '5'), lies(2, '2')];
  expect(takenFromParcels(bench, [content(1, '3')], [content(1, '2')])).toEqual([]);
  expect(takenFromParcels(bench, [content(1, '3')], [content(1, '2.5'), content(2, '2')])).toEqual([{ sku: 'SKU-1', lineId: 1 }]);
});

test('what contents weigh is known when each of them has a weight, to the gram', () => {
  expect(weightOf([])).toBe('0');
  expect(
    weightOf([
      { quantity: '3', weight: '1.25' },
      { quantity: '0.5', weight: '0.333' },
    ]),
  ).toBe('3.917');
  expect(
    weightOf([
      { quantity: '3', weight: '1.25' },
      { quantity: '1', weight: null },
    ]),
  ).toBeNull();
});
