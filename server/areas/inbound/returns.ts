import { decimal, sum } from '@larder/core/decimal';
import { afterReturn, expectedAgain, returnParts, type ReturnSource } from '@larder/core/inbound/returning';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type * as receiving from '@larder/contract/receiving';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { receiptLines, type ReceiptLine } from '../../ledger/receipts';

/** How many of each lot or serial came on order lines and have not gone back. */
const cameSql = `SELECT m.supply_line_id AS "lineId", m.lot_id AS "lotId", t.code, sum(CASE WHEN f.kind = 'supplier' THEN m.quantity ELSE -m.quantity END) AS quantity
  FROM movement_line m JOIN place f ON f.id = m.from_place_id JOIN lot t ON t.id = m.lot_id WHERE m.supply_line_id IS NOT NULL GROUP BY 1, 2, 3`;

export async function returnable({ tx }: Act, orderId: number): Promise<ResponseOf<typeof receiving.returnable>> {
  const [order] = await tx.rows<{ number: string; supplier: string }>(
    'SELECT o.number, p.name AS supplier FROM purchase_order o JOIN party p ON p.id = o.supplier_id WHERE o.id = $1',
    [orderId],
  );
  if (!order) throw new Refusal(404, 'not-found', 'There is no such purchase order.');
  const rows = await tx.rows<receiving.Returnable>(
    `SELECT l.id AS "purchaseLineId", l.position, i.id AS "itemId", i.sku, i.name, u.code AS unit, trim_scale(l.received) AS received,
      (SELECT coalesce(json_agg(json_build_object('binId', p.id, 'bin', p.code, 'sellable', p.sellable, 'lotId', b.lot_id, 'lot', t.code, 'quantity', trim_scale(b.quantity)::text) ORDER BY p.sellable, p.code, t.code), '[]')
        FROM balance b JOIN place p ON p.id = b.place_id LEFT JOIN lot t ON t.id = b.lot_id WHERE b.item_id = i.id AND p.kind = 'bin' AND p.site_id = l.site_id AND b.quantity > 0 AND (b.lot_id IS NULL OR EXISTS (SELECT 1 FROM (${cameSql}) c WHERE c."lineId" = l.id AND c."lotId" = b.lot_id AND c.quantity > 0))) AS places
     FROM purchase_line l JOIN item i ON i.id = l.item_id JOIN unit u ON u.id = i.unit_id WHERE l.order_id = $1 AND l.received > 0 ORDER BY l.position`,
    [orderId],
  );
  return { ...order, rows };
}

/** Orders that an item, or one lot of it, came on and that it has not all gone back on. */
export const returnSources = async (
  { tx }: Act,
  { itemId, lotId }: QueryOf<typeof receiving.returnSources>,
): Promise<ResponseOf<typeof receiving.returnSources>> => ({
  rows: await tx.rows(
    `SELECT o.id AS "orderId", o.number, p.name AS supplier, max(m.effective_on) AS day, trim_scale(sum(m.quantity)) AS received
     FROM movement_line m JOIN place f ON f.id = m.from_place_id JOIN place t ON t.id = m.to_place_id JOIN purchase_line l ON l.id = m.supply_line_id JOIN purchase_order o ON o.id = l.order_id JOIN party p ON p.id = o.supplier_id
     WHERE m.item_id = $1 AND ($2::int IS NULL OR m.lot_id = $2) AND f.kind = 'supplier' AND t.owned AND l.received > 0 AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.movement_id)
     GROUP BY o.id, p.name ORDER BY 4 DESC, o.id DESC LIMIT 20`,
    [itemId, lotId ?? null],
  ),
});

interface ReceivedLine {
  id: number;
  number: string;
  position: number;
  sku: string;
  itemId: number;
  siteId: number;
  active: boolean;
  baseQuantity: string;
  cancelled: string;
  received: string;
  supplierPlaceId: number;
}

/**
 * Sends goods back: they leave at what they cost now, the order counts them at what it paid for the receipts they are taken off, and the difference is price variance.
 * Whether they are replaced, and so expected again, or credited is asked.
 */
export async function returnGoods(act: Act, form: BodyOf<typeof receiving.returnGoods>): Promise<Posting> {
  await lock.purchaseOrders(act, [form.orderId]);
  const rows = await act.tx.rows<ReceivedLine>(
    `SELECT l.id, o.number, l.position, i.sku, l.item_id AS "itemId", l.site_id AS "siteId", l.active, l.base_quantity AS "baseQuantity", l.cancelled, l.received, p.id AS "supplierPlaceId"
     FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN item i ON i.id = l.item_id JOIN place p ON p.kind = 'supplier' AND p.party_id = o.supplier_id WHERE l.order_id = $1`,
    [form.orderId],
  );
  const lines = new Map(rows.map((row) => [row.id, row]));
  await refuseFields(act, form, lines);
  await refuseOtherLots(act, form);
  const ids = form.lines.map(({ purchaseLineId }) => purchaseLineId);
  await lock.poolsOfLines(act, ids);
  const receipts = await receiptLines(act, { purchaseLineIds: ids });
  const sources = new Map(ids.map((id) => [id, receipts.filter((one): one is ReceiptLine => one.purchaseLineId === id && !one.undone)] as const));
  const going = goingBack(form, lines, sources);
  return post(act, {
    kind: 'supplier-return',
    effectiveOn: act.today,
    lines: going,
    reasonId: null,
    reversesId: null,
    note: form.note,
    countedAgreed: form.countedSince,
  });
}

async function refuseFields(act: Act, form: BodyOf<typeof receiving.returnGoods>, lines: ReadonlyMap<number, ReceivedLine>): Promise<void> {
  const { items, bins } = await lineFacts(
    act,
    [...lines.values()].map(({ itemId }) => itemId),
    form.lines.map(({ binId }) => binId),
  );
  refuseErrors(
    form.lines.flatMap((line, index): FieldError[] => {
      const field = (name: string) => `lines.${index}.${name}`;
      const at = lines.get(line.purchaseLineId);
      if (!at) return [{ field: field('purchaseLineId'), sentence: 'That line is not on this order.' }];
      act.allow('inbound.receive', at.siteId);
      if (bins.get(line.binId)?.siteId !== at.siteId) return [{ field: field('binId'), sentence: 'That bin is not at the site this order was delivered to.' }];
      const item = items.get(at.itemId);
      const fault = item && quantityError(item, line.quantity, field('quantity'));
      return fault ? [fault] : [];
    }),
  );
}

/** The lines that go back, each taken off its receipts; refuses more than came, and asks whether they are replaced. */
function goingBack(
  form: BodyOf<typeof receiving.returnGoods>,
  lines: ReadonlyMap<number, ReceivedLine>,
  sources: Map<number, readonly ReturnSource[]>,
): MovementLine[] {
  const left = new Map([...lines].map(([id, row]) => [id, decimal(row.received)]));
  return form.lines.map((line, index): MovementLine => {
    const at = lines.get(line.purchaseLineId) as ReceivedLine;
    const field = `lines.${index}.quantity`;
    const quantity = decimal(line.quantity);
    const from = sources.get(at.id) ?? [];
    const parts = returnParts(from, quantity, line.lotId, line.receiptLineId);
    const found = sum(parts.map((part) => part.quantity));
    if (found.lt(quantity))
      throw refuseField(409, 'not-received', field, `Only ${found.toFixed()} of ${at.number} line ${at.position} came in and have not gone back.`);
    sources.set(at.id, afterReturn(from, parts));
    const received = left.get(at.id) ?? decimal(0);
    left.set(at.id, received.minus(quantity));
    const again = expectedAgain({ active: at.active, baseQuantity: decimal(at.baseQuantity), cancelled: decimal(at.cancelled), received }, quantity);
    if (again.gt(0) && form.then === null)
      throw refuseField(
        409,
        'replaced-or-credited',
        field,
        `Will ${at.number} replace what goes back, ${again.toFixed()} of ${at.sku}, or is a credit expected?`,
        ['replaced', 'credited'],
      );
    return {
      itemId: at.itemId,
      lotId: line.lotId,
      quantity,
      fromPlaceId: line.binId,
      toPlaceId: at.supplierPlaceId,
      valuation: { by: 'returned', value: sum(parts.map(({ value }) => value)), moved: null },
      serves: [{ kind: 'purchase', lineId: at.id }],
      takenOff: parts.map((part, first) => (first === 0 && form.then === 'credited' ? { ...part, calledOff: again } : part)),
      field,
    };
  });
}

/** A lot or serial goes back only on the order line it came on, and no more of it than came there. */
async function refuseOtherLots(act: Act, form: BodyOf<typeof receiving.returnGoods>): Promise<void> {
  const came = await act.tx.rows<{ lineId: number; lotId: number; quantity: string }>(
    `SELECT "lineId", "lotId", quantity FROM (${cameSql}) c WHERE "lineId" = ANY($1) AND "lotId" = ANY($2)`,
    [form.lines.map(({ purchaseLineId }) => purchaseLineId), form.lines.map(({ lotId }) => lotId)],
  );
  const codes = await act.tx.rows<{ id: number; code: string }>('SELECT id, code FROM lot WHERE id = ANY($1)', [form.lines.map(({ lotId }) => lotId)]);
  refuseErrors(
    form.lines.flatMap(({ purchaseLineId, lotId }, index): FieldError[] => {
      if (lotId === null) return [];
      const here = came.find((row) => row.lineId === purchaseLineId && row.lotId === lotId);
      const wanted = sum(form.lines.filter((one) => one.purchaseLineId === purchaseLineId && one.lotId === lotId).map(({ quantity }) => decimal(quantity)));
      const code = codes.find(({ id }) => id === lotId)?.code ?? 'That lot';
      if (here && wanted.lte(here.quantity)) return [];
      return [
        {
          field: `lines.${index}.quantity`,
          sentence:
            !here || decimal(here.quantity).lte(0)
              ? `${code} did not come on this order.`
              : `Only ${decimal(here.quantity).toFixed()} of ${code} came on this order and have not gone back.`,
        },
      ];
    }),
  );
}
