import { decimal } from '@larder/core/decimal';
import { reversalOf, type PostedMovement } from '@larder/core/ledger/reversal';
import type { MovementKind, Serves } from '@larder/core/ledger/types';
import { Refusal, refuseField } from '@larder/core/refusal';
import type { Act } from '../act';
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
  seq: number;
  fromPlaceId: number;
  toPlaceId: number;
  value: string;
  variance: string;
  serves: Serves[];
  layers: { layerSeq: number; quantity: string; value: string }[];
  takenOff: { lineId: number; layerSeq: number; quantity: string; value: string; calledOff: string }[];
}

/** Undoes a movement, whole and once. Refuses, saying why, what cannot be undone any more. */
export async function reverse(act: Act, { movementId, note, countedSince }: { movementId: number; note: string; countedSince: boolean }): Promise<Posting> {
  const [found] = await act.tx.rows<PostedRow>(
    `SELECT m.id, m.kind, m.reason_id AS "reasonId", m.reverses, u.id AS "undoneBy",
      (SELECT coalesce(json_agg(DISTINCT p.site_id), '[]') FROM movement_line l JOIN LATERAL (SELECT site_id FROM place WHERE id IN (l.from_place_id, l.to_place_id) UNION ALL SELECT site_id FROM document_line WHERE id IN (l.supply_line_id, l.demand_line_id)) p ON p.site_id IS NOT NULL WHERE l.movement_id = m.id) AS "siteIds",
      (SELECT coalesce(json_agg(DISTINCT d.order_id), '[]') FROM movement_line l JOIN purchase_line d ON d.id = l.supply_line_id WHERE l.movement_id = m.id) AS "purchaseOrderIds",
      (SELECT coalesce(json_agg(DISTINCT d.order_id), '[]') FROM movement_line l JOIN sales_line d ON d.id = l.demand_line_id WHERE l.movement_id = m.id) AS "salesOrderIds"
     FROM movement m LEFT JOIN movement u ON u.reverses = m.id WHERE m.id = $1`,
    [movementId],
  );
  if (!found) throw new Refusal(404, 'not-found', 'There is no such posting.');
  for (const siteId of found.siteIds.length > 0 ? found.siteIds : [null]) act.allow('undo', siteId);
  if (found.reverses !== null) throw refuseField(409, 'undo-of-undo', 'movementId', 'This posting is an undo itself; post it anew instead.');
  await lock.purchaseOrders(act, found.purchaseOrderIds);
  await lock.salesOrders(act, found.salesOrderIds);
  const lines = await act.tx.rows<LineRow>(
    `SELECT item_id AS "itemId", lot_id AS "lotId", quantity, from_place_id AS "fromPlaceId", to_place_id AS "toPlaceId", value, (SELECT coalesce(json_agg(json_build_object('kind', d.kind, 'lineId', d.id) ORDER BY k.side DESC), '[]') FROM document_line d JOIN document_kind k ON k.kind = d.kind WHERE d.id IN (movement_line.supply_line_id, movement_line.demand_line_id)) AS serves, variance, seq,
      (SELECT coalesce(json_agg(json_build_object('lineId', g.of_line_id, 'layerSeq', r.seq, 'quantity', g.quantity::text, 'value', g.value::text, 'calledOff', g.called_off::text) ORDER BY g.id), '[]') FROM goods_returned g JOIN movement_line r ON r.id = g.of_line_id WHERE g.line_id = movement_line.id) AS "takenOff",
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
  await refuseRestedOn(act, movementId);
  return post(act, reversalOf(postedMovement(found, lines), act.today, note, countedSince));
}

const restsSql = `WITH mine AS (
    SELECT l.id, l.supply_line_id AS line, l.quantity, f.kind = 'supplier' AS came, m.kind = 'supplier-return' AS back FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id WHERE l.movement_id = $1),
  standing AS (SELECT x.id, x.purchase_line_id AS line, x.quantity, b.number, b.kind, b.id AS bill FROM bill_line x JOIN bill b ON b.id = x.bill_id WHERE x.purchase_line_id IN (SELECT line FROM mine) AND b.posted_at IS NOT NULL AND b.undone_at IS NULL)
  SELECT coalesce(
      (SELECT s.number FROM mine JOIN bill_cover c ON c.line_id = mine.id JOIN standing s ON s.id = c.bill_line_id WHERE mine.came ORDER BY s.bill DESC LIMIT 1),
      (SELECT s.number FROM standing s JOIN purchase_line d ON d.id = s.line WHERE d.received - (SELECT sum(quantity) FROM mine WHERE line = d.id AND came) < d.billed ORDER BY s.bill DESC LIMIT 1)) AS bill,
    (SELECT s.number FROM standing s JOIN purchase_line d ON d.id = s.line WHERE s.kind = 'credit' AND s.quantity IS NOT NULL AND d.received + (SELECT sum(quantity) FROM mine WHERE line = d.id AND back) > d.billed ORDER BY s.bill DESC LIMIT 1) AS credit,
    (SELECT h.number FROM landed_receipt r JOIN landed_sheet h ON h.id = r.sheet_id WHERE r.movement_id = $1 AND h.undone_at IS NULL ORDER BY h.id DESC LIMIT 1) AS sheet,
    (SELECT trim_scale(sum(g.quantity)) FROM mine JOIN goods_returned g ON g.of_line_id = mine.id HAVING sum(g.quantity) > 0) AS returned`;

/** A receipt that a bill, a charge or a return rests on, or a return that was credited, is not undone: it says what to undo first. */
async function refuseRestedOn({ tx }: Act, movementId: number): Promise<void> {
  const [rests] = await tx.rows<{ bill: string | null; credit: string | null; sheet: string | null; returned: string | null }>(restsSql, [movementId]);
  const first = rests?.bill ?? rests?.credit ?? rests?.sheet;
  if (first) throw refuseField(409, 'rests-on-it', 'movementId', `${first} rests on this. Undo ${first} first.`);
  if (rests?.returned) throw refuseField(409, 'rests-on-it', 'movementId', `${rests.returned} of these went back to the supplier. Undo that first.`);
}

const postedMovement = ({ id, kind, reasonId }: PostedRow, lines: readonly LineRow[]): PostedMovement => ({
  id,
  kind,
  reasonId,
  lines: lines.map((line) => ({
    itemId: line.itemId,
    lotId: line.lotId,
    quantity: decimal(line.quantity),
    seq: line.seq,
    fromPlaceId: line.fromPlaceId,
    toPlaceId: line.toPlaceId,
    value: decimal(line.value),
    variance: decimal(line.variance),
    serves: line.serves,
    takenOff: line.takenOff.map((part) => ({
      lineId: part.lineId,
      layerSeq: part.layerSeq,
      quantity: decimal(part.quantity),
      value: decimal(part.value),
      calledOff: decimal(part.calledOff),
    })),
    layerMoves: line.layers.map(({ layerSeq, quantity, value }) => ({ layerSeq, quantity: decimal(quantity), value: decimal(value) })),
  })),
});
