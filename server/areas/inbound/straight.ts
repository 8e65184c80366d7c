import type * as receiving from '@larder/contract/receiving';
import { least, type Decimal } from '@larder/core/decimal';
import type { Movement, MovementLine, ReservationChange } from '@larder/core/ledger/types';
import type { Act } from '../../act';
import { post } from '../../ledger/door';
import { lock } from '../../ledger/lock';

/** Locks the orders that wait for these items, before the stock: some of them may be picked at once. */
export async function lockWaiting(act: Act, itemIds: readonly number[]): Promise<void> {
  const waiting = await act.tx.rows<{ id: number }>('SELECT DISTINCT order_id AS id FROM sales_line WHERE item_id = ANY($1) AND short > 0', [itemIds]);
  await lock.salesOrders(
    act,
    waiting.map(({ id }) => id),
  );
}

/** Carries what just came in to the bench, for the order lines it was reserved for: lot by lot, as far as it lies in bins that may be sold from. */
export async function toBench(act: Act, receipt: Movement, form: receiving.ReceiptForm, served: readonly ReservationChange[]): Promise<void> {
  const places = await act.tx.rows<{ id: number; kind: string; siteId: number; sellable: boolean }>(
    `SELECT id, kind, site_id AS "siteId", sellable FROM place WHERE id = ANY($1) OR (kind = 'bench' AND site_id = ANY($2))`,
    [receipt.lines.map(({ toPlaceId }) => toPlaceId), served.map(({ siteId }) => siteId)],
  );
  const binOf = (id: number) => places.find((place) => place.id === id);
  const here = receipt.lines
    .filter(
      ({ field, toPlaceId, pastUse }) => pastUse !== true && form.lines[Number(field.split('.')[1])]?.toBench === true && binOf(toPlaceId)?.sellable === true,
    )
    .map((line) => ({ ...line, left: line.quantity }));
  const lines: MovementLine[] = [];
  for (const { lineId, itemId, siteId, quantity } of served) {
    const bench = places.find(({ kind, siteId: at }) => kind === 'bench' && at === siteId);
    let open: Decimal = quantity;
    for (const from of here.filter((line) => line.itemId === itemId && binOf(line.toPlaceId)?.siteId === siteId)) {
      const takes = least(open, from.left);
      if (takes.lte(0) || !bench) continue;
      from.left = from.left.minus(takes);
      open = open.minus(takes);
      lines.push({
        itemId,
        lotId: from.lotId,
        quantity: takes,
        fromPlaceId: from.toPlaceId,
        toPlaceId: bench.id,
        valuation: { by: 'current' },
        serves: { kind: 'sales', lineId },
        field: from.field,
      });
    }
  }
  if (lines.length > 0)
    await post(act, { kind: 'pick', effectiveOn: receipt.effectiveOn, lines, reasonId: null, reversesId: null, note: 'straight from receiving' });
}
