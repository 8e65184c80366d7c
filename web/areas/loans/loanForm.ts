import type { CanBeLent, LendForm } from '@larder/contract/loans';
import { decimal, least } from '@larder/core/decimal';
import { isNumber } from '@larder/core/number';
import { lentBy, type LoanRule } from '@larder/core/stock/loans';
import { sentRow } from '../../kit/row';

/** Something that is to be lent, while it is typed: of a serial, one unit a row. */
export interface LendRow {
  itemId: number;
  sku: string;
  name: string;
  /** Where it is taken from; null: where most can be had. */
  binId: number | null;
  lotId: number | null;
  quantity: string;
}
export interface LendDraft {
  holder: { id: number; name: string } | null;
  dueOn: string | null;
  note: string;
  rows: LendRow[];
}

type Place = CanBeLent['places'][number];
/** Where a row is taken from: as it was chosen, else the first place that no other row of the same item takes. */
export function placeOf(row: LendRow, found: CanBeLent | undefined, others: readonly LendRow[]): Place | null {
  const places = found?.places ?? [];
  const chosen = places.find((place) => place.binId === row.binId && place.lotId === row.lotId);
  if (chosen || row.binId !== null) return chosen ?? null;
  const taken = others.filter((one) => one !== row && one.itemId === row.itemId && one.binId !== null);
  return (
    places.find((place) => (row.lotId === null || place.lotId === row.lotId) && !taken.some((one) => one.binId === place.binId && one.lotId === place.lotId)) ??
    null
  );
}

/** Where items lie, the places of one site first: the one that has the most of the items, as things that are lent together come from one site. */
export function fromOneSite(found: readonly CanBeLent[]): CanBeLent[] {
  const many = new Map<number, number>();
  for (const { places } of found) for (const siteId of new Set(places.map((place) => place.siteId))) many.set(siteId, (many.get(siteId) ?? 0) + 1);
  const of = (siteId: number) => many.get(siteId) ?? 0;
  return found.map((one) => ({ ...one, places: [...one.places].sort((a, b) => of(b.siteId) - of(a.siteId) || a.siteId - b.siteId) }));
}

/** How many a row lends by a rule. */
export const quantityBy = (rule: LoanRule, place: Place | null): string =>
  place === null ? '0' : lentBy(rule, least(decimal(place.free), decimal(place.quantity))).toFixed();

export const isLent = ({ quantity }: LendRow): boolean => isNumber(quantity, 'quantity');

/** What is sent: rows of which something is lent, each from its place. */
export function lendBody({ holder, dueOn, note, rows }: LendDraft, found: readonly CanBeLent[]): LendForm {
  return {
    holderId: holder?.id ?? null,
    dueOn,
    note,
    lines: rows.filter(isLent).map((row) => {
      const place = placeOf(
        row,
        found.find(({ itemId }) => itemId === row.itemId),
        rows,
      );
      // Where none is known it is refused at its field.
      return { itemId: row.itemId, lotId: place?.lotId ?? row.lotId, binId: place?.binId ?? row.binId ?? 0, quantity: row.quantity.trim() };
    }),
  };
}

/** Where what is wrong with a line is said. */
export function lendField(path: string, { rows }: LendDraft): string {
  if (path === 'holderId') return 'holder';
  const row = sentRow(path, 'lines', rows, isLent);
  return row ? `rows.${row.at}.quantity` : path;
}

/** The rows once something was scanned: a unit by its serial has a row of its own, anything else counts one more. */
export function withScanned(rows: readonly LendRow[], item: Pick<LendRow, 'itemId' | 'sku' | 'name' | 'lotId'>, more: string): LendRow[] {
  const at = rows.findIndex((row) => row.itemId === item.itemId && (item.lotId === null || row.lotId === item.lotId));
  const had = rows[at];
  if (!had) return [...rows, { ...item, binId: null, quantity: more }];
  if (item.lotId !== null && more === '1' && had.quantity === '1') return [...rows];
  const total = decimal(isLent(had) ? had.quantity.trim() : '0')
    .plus(more)
    .toFixed();
  return rows.map((row, index) => (index === at ? { ...row, quantity: total } : row));
}
