import type { getPacking, Content, packOrder } from '@larder/contract/shipping';
import type { ResponseOf } from '@larder/contract/endpoint';
import { readScan, scannedQuantity } from '@larder/core/codes/meaning';
import { decimal, sum } from '@larder/core/decimal';
import { weightOf } from '@larder/core/outbound/packing';
import type { z } from 'zod';

export type Packing = ResponseOf<typeof getPacking>;

/** What lies on the bench of a site for a line, of one lot, and may be packed or is: in all. */
export interface BenchRow extends Content {
  key: string;
}
/** A parcel as it is packed: how many of each row of the bench. */
export interface ParcelForm {
  id: number | null;
  number: string;
  weight: string;
  length: number | string | null;
  width: number | string | null;
  height: number | string | null;
  rows: { quantity: string }[];
}
export interface PackForm {
  parcels: ParcelForm[];
}

const keyOf = ({ lineId, lotId }: Pick<Content, 'lineId' | 'lotId'>): string => `${lineId} ${lotId ?? ''}`;
const given = (quantity: string): boolean => quantity.trim() !== '' && Number(quantity) !== 0;

/** Parcels at a site that may still be packed otherwise. */
export const openParcels = ({ parcels }: Packing, siteId: number) => parcels.filter((one) => one.siteId === siteId && one.shipmentId === null);

/** Sites at which something of an order lies loose, or in parcels that are not booked. */
export const packingSites = (packing: Packing): { siteId: number; site: string }[] => [
  ...new Map(
    [...packing.loose, ...packing.parcels.filter(({ shipmentId }) => shipmentId === null)].map(({ siteId, site }) => [siteId, { siteId, site }]),
  ).values(),
];

/** What may be packed at a site: what lies loose there, and what is in parcels that are not booked. */
export function benchRows(packing: Packing, siteId: number): BenchRow[] {
  const all = [...packing.loose.filter((one) => one.siteId === siteId), ...openParcels(packing, siteId).flatMap(({ contents }) => contents)];
  const rows = new Map<string, BenchRow>();
  for (const one of all) {
    const before = rows.get(keyOf(one));
    rows.set(keyOf(one), {
      ...one,
      key: keyOf(one),
      quantity: decimal(before?.quantity ?? 0)
        .plus(one.quantity)
        .toFixed(),
    });
  }
  return [...rows.values()].sort((a, b) => a.lineId - b.lineId || (a.lotId ?? 0) - (b.lotId ?? 0));
}

const emptyParcel = (rows: readonly BenchRow[]): ParcelForm => ({
  id: null,
  number: '',
  weight: '',
  length: null,
  width: null,
  height: null,
  rows: rows.map(() => ({ quantity: '' })),
});

/** Parcels as they are packed; where there is none yet, one that takes everything. */
export function parcelsOf(packing: Packing, siteId: number, rows: readonly BenchRow[]): ParcelForm[] {
  const open = openParcels(packing, siteId);
  if (open.length === 0) return [{ ...emptyParcel(rows), rows: rows.map(({ quantity }) => ({ quantity })) }];
  return open.map(({ id, number, weight, length, width, height, contents }) => ({
    id,
    number,
    weight: weight ?? '',
    length,
    width,
    height,
    rows: rows.map((row) => ({ quantity: contents.find((one) => keyOf(one) === row.key)?.quantity ?? '' })),
  }));
}

/** How many of a row are in no parcel; below zero when more are packed than lie there. */
export const looseIn = (parcels: readonly ParcelForm[], { quantity }: BenchRow, index: number): string =>
  decimal(quantity)
    .minus(sum(parcels.map(({ rows }) => numberIn(rows[index]?.quantity))))
    .toFixed();

const numberIn = (typed = '') => decimal(/^\d+(\.\d+)?$/.test(typed.trim()) ? typed.trim() : 0);

/** Another parcel, which takes what is in none. */
export const anotherParcel = (parcels: readonly ParcelForm[], rows: readonly BenchRow[]): ParcelForm => ({
  ...emptyParcel(rows),
  rows: rows.map((row, index) => {
    const left = looseIn(parcels, row, index);
    return { quantity: Number(left) > 0 ? left : '' };
  }),
});

/** What a parcel weighs by its contents, in kilograms; null when one of them has no weight. */
export const reckonedWeight = (parcel: ParcelForm, rows: readonly BenchRow[]): string | null =>
  weightOf(
    rows.flatMap(({ weight }, index) => {
      const quantity = numberIn(parcel.rows[index]?.quantity);
      return quantity.isZero() ? [] : [{ quantity: quantity.toFixed(), weight }];
    }),
  );

/** What is in a parcel, in words: "2 SMOKER, 1 VEIL". */
export const contentsInWords = (parcel: ParcelForm, rows: readonly BenchRow[]): string =>
  rows
    .flatMap(({ sku, lot }, index) => {
      const { quantity = '' } = parcel.rows[index] ?? {};
      return given(quantity) ? [`${quantity.trim()} ${sku}${lot === null ? '' : ` (${lot})`}`] : [];
    })
    .join(', ');

/** What is sent of parcels as they are packed. */
export const packBody = ({ parcels }: PackForm, packing: Packing, siteId: number, rows: readonly BenchRow[]): z.input<typeof packOrder.body> => ({
  siteId,
  seen: openParcels(packing, siteId).map(({ id, version }) => ({ id, version })),
  parcels: parcels.map(({ id, weight, length, width, height, rows: typed }) => ({
    id,
    weight: weight.trim() === '' ? null : weight.trim(),
    length: length as number | null,
    width: width as number | null,
    height: height as number | null,
    contents: rows.flatMap(({ lineId, lotId }, index) => {
      const { quantity = '' } = typed[index] ?? {};
      return given(quantity) ? [{ lineId, lotId, quantity: quantity.trim() }] : [];
    }),
  })),
});

/** The field that something sent of parcels stands in. */
export function packField(path: string, { parcels }: PackForm): string {
  const [list, nth, contents, place, part] = path.split('.');
  if (list !== 'parcels' || contents !== 'contents') return path;
  const filled = parcels[Number(nth)]?.rows.flatMap(({ quantity }, index) => (given(quantity) ? [index] : [])) ?? [];
  const row = place === undefined ? 0 : (filled[Number(place)] ?? 0);
  return `parcels.${nth ?? '0'}.rows.${row}.${part === undefined || part === 'lotId' || part === 'lineId' ? 'quantity' : part}`;
}

/** What a scan puts into a parcel: so many of a row of which that many are in none; or why none. */
export function packScan(
  parcels: readonly ParcelForm[],
  rows: readonly BenchRow[],
  code: string,
): { row: number; quantity: string; said: string } | { row: null; said: string } {
  const scanned = readScan(code);
  const lot = scanned.gs1?.serial ?? scanned.gs1?.lot;
  const fits = rows.flatMap((row, index) => {
    const quantity = scannedQuantity(row.codes, scanned);
    return quantity === null || (lot !== undefined && row.lot !== null && row.lot !== lot) ? [] : [{ row, index, quantity }];
  });
  const found = fits.find(({ row, index, quantity }) => quantity.lte(looseIn(parcels, row, index)));
  if (found) return { row: found.index, quantity: found.quantity.toFixed(), said: `${found.quantity.toFixed()} × ${found.row.sku}` };
  return { row: null, said: fits[0] ? `All of ${fits[0].row.sku} is packed already.` : `${code} is not on this bench.` };
}
