import { decimal } from '@larder/core/decimal';
import { reversalOf, type PostedMovement } from '@larder/core/ledger/reversal';
import type { MovementKind } from '@larder/core/ledger/types';
import { Refusal, refuseField } from '@larder/core/refusal';
import { needRight, type Act } from '../act';
import { post, type Posting } from './door';
import { lock } from './lock';

interface PostedRow {
  id: number;
  kind: MovementKind;
  reasonId: number | null;
  purchaseOrderIds: number[];
  salesOrderIds: number[];
  reverses: number | null;
  undoneBy: number | null;
  siteIds: number[];
}

interface LineRow {
  itemId: number;
  lotId: number | null;
  quantity: string;
  fromPlaceId: number;
  toPlaceId: number;
  value: string;
  variance: string;
  purchaseLineId: number | null;
  salesLineId: number | null;
  layers: { layerSeq: number; quantity: string; value: string }[];
}

/** Undoes a movement, whole and once. Refuses, saying why, what cannot be undone any more. */
export async function reverse(act: Act, movementId: number, note: string): Promise<Posting> {
  const [found] = await act.tx.rows<PostedRow>(
    `SELECT m.id, m.kind, m.reason_id AS "reasonId", m.reverses, u.id AS "undoneBy",
      (SELECT coalesce(json_agg(DISTINCT p.site_id), '[]') FROM movement_line l JOIN place p ON p.id IN (l.from_place_id, l.to_place_id) WHERE l.movement_id = m.id AND p.site_id IS NOT NULL) AS "siteIds",
      (SELECT coalesce(json_agg(DISTINCT d.order_id), '[]') FROM movement_line l JOIN purchase_line d ON d.id = l.purchase_line_id WHERE l.movement_id = m.id) AS "purchaseOrderIds",
      (SELECT coalesce(json_agg(DISTINCT d.order_id), '[]') FROM movement_line l JOIN sales_line d ON d.id = l.sales_line_id WHERE l.movement_id = m.id) AS "salesOrderIds"
     FROM movement m LEFT JOIN movement u ON u.reverses = m.id WHERE m.id = $1`,
    [movementId],
  );
  if (!found) throw new Refusal(404, 'not-found', 'There is no such posting.');
  found.siteIds.forEach((siteId) => needRight(act.by, 'undo', siteId));
  if (found.reverses !== null) throw refuseField(409, 'undo-of-undo', 'movementId', 'This posting is an undo itself; post it anew instead.');
  await lock.purchaseOrders(act, found.purchaseOrderIds);
  await lock.salesOrders(act, found.salesOrderIds);
  const lines = await act.tx.rows<LineRow>(
    `SELECT item_id AS "itemId", lot_id AS "lotId", quantity, from_place_id AS "fromPlaceId", to_place_id AS "toPlaceId", value, purchase_line_id AS "purchaseLineId", sales_line_id AS "salesLineId", variance,
      (SELECT coalesce(json_agg(json_build_object('layerSeq', y.layer_seq, 'quantity', y.quantity::text, 'value', y.value::text) ORDER BY y.layer_seq), '[]') FROM layer_line y WHERE y.item_id = movement_line.item_id AND y.seq = movement_line.seq) AS layers
     FROM movement_line WHERE movement_id = $1 ORDER BY position`,
    [movementId],
  );
  await lock.pools(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const [done] = await act.tx.rows<{ day: string }>('SELECT effective_on AS day FROM movement WHERE reverses = $1', [movementId]);
  if (done) throw refuseField(409, 'already-undone', 'movementId', `This posting was already undone on ${done.day}.`);
  await refuseBilled(act, movementId);
  return post(act, reversalOf(postedMovement(found, lines), act.today, note));
}

/** A receipt that a bill or a charge rests on, or a return that was credited, is not undone: it says what to undo first. */
async function refuseBilled({ tx }: Act, movementId: number): Promise<void> {
  const [rests] = await tx.rows<{ bill: string | null; credit: string | null; sheet: string | null }>(
    `SELECT (SELECT b.number FROM movement_line l JOIN place f ON f.id = l.from_place_id JOIN purchase_line d ON d.id = l.purchase_line_id JOIN bill_line x ON x.purchase_line_id = d.id JOIN bill b ON b.id = x.bill_id
        WHERE l.movement_id = $1 AND f.kind = 'supplier' AND b.posted_at IS NOT NULL AND b.undone_at IS NULL AND (x.quantity IS NULL OR d.received - (SELECT sum(quantity) FROM movement_line WHERE movement_id = $1 AND purchase_line_id = d.id) < d.billed) ORDER BY b.id DESC LIMIT 1) AS bill,
      (SELECT b.number FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN purchase_line d ON d.id = l.purchase_line_id JOIN bill_line x ON x.purchase_line_id = d.id JOIN bill b ON b.id = x.bill_id
        WHERE l.movement_id = $1 AND m.kind = 'supplier-return' AND b.kind = 'credit' AND x.quantity IS NOT NULL AND b.posted_at IS NOT NULL AND b.undone_at IS NULL
         AND d.received + (SELECT sum(quantity) FROM movement_line WHERE movement_id = $1 AND purchase_line_id = d.id) > d.billed ORDER BY b.id DESC LIMIT 1) AS credit,
      (SELECT s.number FROM landed_receipt r JOIN landed_sheet s ON s.id = r.sheet_id WHERE r.movement_id = $1 AND s.undone_at IS NULL ORDER BY s.id DESC LIMIT 1) AS sheet`,
    [movementId],
  );
  const first = rests?.bill ?? rests?.credit ?? rests?.sheet;
  if (first) throw refuseField(409, 'rests-on-it', 'movementId', `${first} rests on this. Undo ${first} first.`);
}

const postedMovement = ({ id, kind, reasonId }: PostedRow, lines: readonly LineRow[]): PostedMovement => ({
  id,
  kind,
  reasonId,
  lines: lines.map((line) => ({
    itemId: line.itemId,
    lotId: line.lotId,
    quantity: decimal(line.quantity),
    fromPlaceId: line.fromPlaceId,
    toPlaceId: line.toPlaceId,
    value: decimal(line.value),
    variance: decimal(line.variance),
    serves:
      line.purchaseLineId !== null
        ? { kind: 'purchase', lineId: line.purchaseLineId }
        : line.salesLineId !== null
          ? { kind: 'sales', lineId: line.salesLineId }
          : null,
    layerMoves: line.layers.map(({ layerSeq, quantity, value }) => ({ layerSeq, quantity: decimal(quantity), value: decimal(value) })),
  })),
});
