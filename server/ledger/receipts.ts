import { layerHere } from '@larder/core/costing/layers';
import { costMethods, type CostMethodName, type Pool } from '@larder/core/costing/method';
import { shareHere } from '@larder/core/costing/shareHere';
import { decimal, greatest, least, zero, type Decimal } from '@larder/core/decimal';
import type { Act } from '../act';

/** A line of a receipt as cost that comes later sees it. */
export interface ReceiptLine {
  lineId: number;
  movementId: number;
  itemId: number;
  purchaseLineId: number | null;
  /** What it brought; nothing when the receipt was undone. */
  net: Decimal;
  /** At which it came into the pool, in company currency. */
  value: Decimal;
  /** It came to a place of ours, and not straight to a customer or into use. */
  ours: boolean;
  /** Which part of it is still here, 0 to 1. */
  here: Decimal;
  /** The pool it is part of now, the item's or its own layer, and by what that is known. */
  pool: Pool;
  poolKey: string;
  inventoryAccount: number;
  costAccount: number;
}

interface Row {
  lineId: number;
  movementId: number;
  itemId: number;
  purchaseLineId: number | null;
  net: string;
  value: string;
  /** What the pool took in after it, and what of that went back. */
  arrived: string;
  gone: string;
  /** Of the purchase line, sent back to the supplier. */
  returned: string;
  /** Whether it came to a place of ours, and not straight to a customer. */
  ours: boolean;
  owned: string;
  worth: string;
  seq: number;
  method: CostMethodName;
  /** What is left of its layer, for items kept by layers. */
  layerQuantity: string | null;
  layerValue: string | null;
  inventory: number;
  cost: number;
}

/** Receipt lines of purchase lines or of receipts, in the order they came in. What lies in the pools is read with them: lock those first. */
export async function receiptLines({ tx }: Act, of: { purchaseLineIds: readonly number[] } | { movementIds: readonly number[] }): Promise<ReceiptLine[]> {
  const [condition, ids] = 'movementIds' in of ? [`t.kind <> 'used-up' AND l.movement_id`, of.movementIds] : ['l.purchase_line_id', of.purchaseLineIds];
  const rows = await tx.rows<Row>(
    `SELECT l.id AS "lineId", l.movement_id AS "movementId", l.item_id AS "itemId", l.purchase_line_id AS "purchaseLineId", l.value + l.variance AS value, l.seq, t.owned AS ours, i.cost_method AS method, y.quantity AS "layerQuantity", y.value AS "layerValue",
      CASE WHEN EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id) THEN 0 ELSE l.quantity END AS net, p.quantity AS owned, p.value AS worth,
      (SELECT coalesce(sum(x.quantity), 0) FROM movement_line x JOIN movement n ON n.id = x.movement_id JOIN place xf ON xf.id = x.from_place_id JOIN place xt ON xt.id = x.to_place_id
        WHERE x.item_id = l.item_id AND x.seq > l.seq AND xf.kind IN ('supplier', 'opening', 'made') AND xt.owned AND n.reverses IS NULL AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = n.id)) AS arrived,
      (SELECT coalesce(sum(x.quantity), 0) FROM movement_line x JOIN movement n ON n.id = x.movement_id
        WHERE x.item_id = l.item_id AND x.seq > l.seq AND n.kind = 'supplier-return' AND x.purchase_line_id IS DISTINCT FROM l.purchase_line_id AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = n.id)
         AND EXISTS (SELECT 1 FROM movement_line y WHERE y.purchase_line_id = x.purchase_line_id AND y.item_id = x.item_id AND y.seq > l.seq AND y.seq < x.seq)) AS gone,
      (SELECT coalesce(sum(r.quantity), 0) FROM movement_line r JOIN movement n ON n.id = r.movement_id WHERE r.purchase_line_id = l.purchase_line_id AND n.kind = 'supplier-return' AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = n.id)) AS returned,
      coalesce(i.inventory_account_id, c.inventory_account_id, (SELECT id FROM account WHERE purpose = 'inventory')) AS inventory, coalesce(i.cost_account_id, c.cost_account_id, (SELECT id FROM account WHERE purpose = 'cost-of-sales')) AS cost
     FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id JOIN pool p ON p.item_id = l.item_id JOIN item i ON i.id = l.item_id LEFT JOIN category c ON c.id = i.category_id LEFT JOIN cost_layer y ON y.item_id = l.item_id AND y.seq = l.seq
     WHERE ${condition} = ANY($1) AND f.kind = 'supplier' AND m.reverses IS NULL ORDER BY m.id, l.position`,
    [ids],
  );
  takeReturned(rows);
  return rows.map((row) => ({
    lineId: row.lineId,
    movementId: row.movementId,
    itemId: row.itemId,
    purchaseLineId: row.purchaseLineId,
    net: decimal(row.net),
    value: decimal(row.value),
    ours: row.ours,
    ...standingOf(row),
    inventoryAccount: row.inventory,
    costAccount: row.cost,
  }));
}

/** How much of a receipt is still here, and in which pool: layers know it exactly, under moving average it is reckoned. */
function standingOf(row: Row): Pick<ReceiptLine, 'here' | 'pool' | 'poolKey'> {
  if (!row.ours) return { here: zero, pool: { quantity: zero, value: zero }, poolKey: `gone ${row.lineId}` };
  if (costMethods[row.method].keepsLayers) {
    const pool = { quantity: decimal(row.layerQuantity ?? '0'), value: decimal(row.layerValue ?? '0') };
    return { here: layerHere(pool, decimal(row.net)), pool, poolKey: `layer ${row.itemId}/${row.seq}` };
  }
  const receivedLater = greatest(zero, decimal(row.arrived).minus(row.gone));
  return {
    here: shareHere({ received: decimal(row.net), receivedLater, owned: decimal(row.owned) }),
    pool: { quantity: decimal(row.owned), value: decimal(row.worth) },
    poolKey: `item ${row.itemId}`,
  };
}

/** The pools of receipt lines, as planning costs asks for them. */
export const poolsOf = (lines: readonly ReceiptLine[]): Map<string, Pool> => new Map(lines.map(({ poolKey, pool }) => [poolKey, pool]));

/** What went back to the supplier is taken off the last receipts of its order line first. */
function takeReturned(rows: Row[]): void {
  const left = new Map<number, Decimal>();
  for (const row of [...rows].reverse()) {
    if (row.purchaseLineId === null) continue;
    const open = left.get(row.purchaseLineId) ?? decimal(row.returned);
    const taken = least(open, decimal(row.net));
    row.net = decimal(row.net).minus(taken).toFixed();
    left.set(row.purchaseLineId, open.minus(taken));
  }
}
