import type * as receiving from '@larder/contract/receiving';
import { decimal, least, sum, type Decimal } from '@larder/core/decimal';
import type { Carried } from '@larder/core/ledger/effects';
import type { Movement, MovementLine, ReservationChange } from '@larder/core/ledger/types';
import type { Act } from '../../act';
import { lock } from '../../ledger/lock';

/** Locks the orders that wait for these items, before the stock: some of them may be picked at once. */
export async function lockWaiting(act: Act, itemIds: readonly number[]): Promise<void> {
  const waiting = await act.tx.rows<{ id: number }>('SELECT DISTINCT order_id AS id FROM sales_line WHERE item_id = ANY($1) AND short > 0', [itemIds]);
  await lock.salesOrders(
    act,
    waiting.map(({ id }) => id),
  );
}

/** What lies on the benches now, of these items. */
const benchesSql = `SELECT i.id AS "itemId", i.sku, i.name, b.id AS "benchId", s.id AS "siteId", s.name AS "where", coalesce(q.quantity, 0) AS quantity
  FROM item i CROSS JOIN place b JOIN site s ON s.id = b.site_id LEFT JOIN LATERAL (SELECT sum(quantity) AS quantity FROM balance WHERE item_id = i.id AND place_id = b.id) q ON true
  WHERE i.id = ANY($1) AND b.kind = 'bench'`;

export interface Bench {
  itemId: number;
  sku: string;
  name: string;
  benchId: number;
  siteId: number;
  where: string;
  quantity: string;
}

export const benchesOf = ({ tx }: Act, itemIds: readonly number[]): Promise<Bench[]> => tx.rows<Bench>(benchesSql, [itemIds]);

/** The lines that carry what comes in to the bench, for the order lines it is reserved for: lot by lot, as far as it goes into bins that may be sold from. */
export async function benchLines(
  act: Act,
  receipt: Movement,
  form: receiving.ReceiptForm,
  served: readonly ReservationChange[],
  benches: readonly Bench[],
): Promise<MovementLine[]> {
  const bins = await act.tx.rows<{ id: number; siteId: number }>('SELECT id, site_id AS "siteId" FROM place WHERE id = ANY($1) AND sellable', [
    receipt.lines.map(({ toPlaceId }) => toPlaceId),
  ]);
  const siteOf = (id: number) => bins.find((bin) => bin.id === id)?.siteId;
  const here = receipt.lines
    .filter(({ field, toPlaceId, pastUse }) => pastUse !== true && form.lines[Number(field.split('.')[1])]?.toBench === true && siteOf(toPlaceId) !== undefined)
    .map((line) => ({ ...line, left: line.quantity }));
  const lines: MovementLine[] = [];
  for (const { lineId, itemId, siteId, quantity } of served) {
    const bench = benches.find((one) => one.itemId === itemId && one.siteId === siteId);
    let open: Decimal = quantity;
    for (const from of here.filter((line) => line.itemId === itemId && siteOf(line.toPlaceId) === siteId)) {
      const takes = least(open, from.left);
      if (takes.lte(0) || !bench) continue;
      from.left = from.left.minus(takes);
      open = open.minus(takes);
      lines.push({
        itemId,
        lotId: from.lotId,
        quantity: takes,
        fromPlaceId: from.toPlaceId,
        toPlaceId: bench.benchId,
        valuation: { by: 'current' },
        serves: [{ kind: 'sales', lineId }],
        field: from.field,
      });
    }
  }
  return lines;
}

/** What these lines carry to each bench, as the effects tell it. */
export const carriedBy = (lines: readonly MovementLine[], benches: readonly Bench[]): Carried[] =>
  benches.flatMap(({ itemId, sku, name, where, benchId, quantity: before }) => {
    const quantity = sum(lines.filter((line) => line.itemId === itemId && line.toPlaceId === benchId).map((line) => line.quantity));
    return quantity.isZero() ? [] : [{ itemId, sku, name, where, bench: decimal(before), quantity }];
  });

/** The pick that carries them. */
export const benchPick = (receipt: Movement, lines: MovementLine[]): Movement => ({
  kind: 'pick',
  effectiveOn: receipt.effectiveOn,
  lines,
  reasonId: null,
  reversesId: null,
  note: 'straight from receiving',
});
