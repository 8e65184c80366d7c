import type { Bearer } from '@larder/core/costing/adjust';
import { costMethods, type CostMethodName, type Pool } from '@larder/core/costing/method';
import { stillHere } from '@larder/core/costing/shareHere';
import { decimal, least, zero, type Decimal, type Had } from '@larder/core/decimal';
import type { ReceiptStand } from '@larder/core/inbound/cover';
import type { Act } from '../act';

/** A line of a receipt as cost that comes later, bills and returns see it. */
export interface ReceiptLine extends Bearer, ReceiptStand {
  movementId: number;
  purchaseLineId: number | null;
  /** Its running number: the layer of cost it made. */
  seq: number;
  /** The day it came. */
  day: string;
  undone: boolean;
  /** What it brought, and at which value in company currency. */
  brought: Had;
  /** What of that went back, and what the order had paid for it. */
  returned: Had;
  /** It came to a place of ours, and not straight to a customer or into use. */
  ours: boolean;
  /** The pool it is part of now: the item's or its own layer. */
  pool: Pool;
  inventoryAccount: number;
  costAccount: number;
}

interface Row {
  lineId: number;
  movementId: number;
  itemId: number;
  lotId: number | null;
  purchaseLineId: number | null;
  seq: number;
  day: string;
  undone: boolean;
  quantity: string;
  value: string;
  returned: string;
  returnedValue: string;
  covered: string;
  /** What other receipts brought after it, net of what went back of them. */
  later: string;
  ours: boolean;
  owned: string;
  worth: string;
  method: CostMethodName;
  /** What is left of its layer, for items kept by layers. */
  layerQuantity: string | null;
  layerValue: string | null;
  inventory: number;
  cost: number;
}

const standing = (movement: string) => `${movement}.reverses IS NULL AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = ${movement}.id)`;
const returnedOf = (line: string, what: string) => `coalesce((SELECT sum(g.${what}) FROM goods_returned g WHERE g.of_line_id = ${line}.id), 0)`;

/** Receipt lines of purchase lines or of receipts, in the order they came in. What lies in the pools is read with them: lock those first. */
export async function receiptLines({ tx }: Act, of: { purchaseLineIds: readonly number[] } | { movementIds: readonly number[] }): Promise<ReceiptLine[]> {
  const [condition, ids] = 'movementIds' in of ? [`t.kind <> 'used-up' AND l.movement_id`, of.movementIds] : ['l.supply_line_id', of.purchaseLineIds];
  const rows = await tx.rows<Row>(
    `SELECT l.id AS "lineId", l.movement_id AS "movementId", l.item_id AS "itemId", l.lot_id AS "lotId", l.supply_line_id AS "purchaseLineId", l.seq, l.effective_on AS day,
      EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id) AS undone, l.quantity, l.value + l.variance AS value, ${returnedOf('l', 'quantity')} AS returned, ${returnedOf('l', 'value')} AS "returnedValue",
      coalesce((SELECT sum(c.quantity) FROM bill_cover c JOIN bill_line x ON x.id = c.bill_line_id JOIN bill b ON b.id = x.bill_id WHERE c.line_id = l.id AND b.undone_at IS NULL), 0) AS covered,
      (SELECT coalesce(sum(x.quantity - ${returnedOf('x', 'quantity')}), 0) FROM movement_line x JOIN movement n ON n.id = x.movement_id JOIN place xf ON xf.id = x.from_place_id JOIN place xt ON xt.id = x.to_place_id
        WHERE x.item_id = l.item_id AND x.seq > l.seq AND xf.kind IN ('supplier', 'opening', 'made') AND xt.owned AND ${standing('n')}) AS later,
      t.owned AS ours, p.quantity AS owned, p.value AS worth, i.cost_method AS method, y.quantity AS "layerQuantity", y.value AS "layerValue",
      coalesce(i.inventory_account_id, c.inventory_account_id, (SELECT id FROM account WHERE purpose = 'inventory')) AS inventory, coalesce(i.cost_account_id, c.cost_account_id, (SELECT id FROM account WHERE purpose = 'cost-of-sales')) AS cost
     FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id JOIN pool p ON p.item_id = l.item_id JOIN item i ON i.id = l.item_id LEFT JOIN category c ON c.id = i.category_id LEFT JOIN cost_layer y ON y.item_id = l.item_id AND y.seq = l.seq
     WHERE ${condition} = ANY($1) AND f.kind = 'supplier' AND m.reverses IS NULL ORDER BY m.id, l.position`,
    [ids],
  );
  return rows.map((row) => {
    const net = row.undone ? zero : decimal(row.quantity).minus(row.returned);
    return {
      lineId: row.lineId,
      movementId: row.movementId,
      itemId: row.itemId,
      lotId: row.lotId,
      purchaseLineId: row.purchaseLineId,
      seq: row.seq,
      day: row.day,
      undone: row.undone,
      brought: { quantity: decimal(row.quantity), amount: decimal(row.value) },
      returned: { quantity: decimal(row.returned), amount: decimal(row.returnedValue) },
      covered: decimal(row.covered),
      ours: row.ours,
      net,
      ...standingOf(row, net),
      inventoryAccount: row.inventory,
      costAccount: row.cost,
    };
  });
}

/** How many of a receipt are still here, and in which pool: layers know it exactly, under moving average it is reckoned. */
function standingOf(row: Row, net: Decimal): Pick<ReceiptLine, 'here' | 'pool' | 'poolKey'> {
  if (!row.ours) return { here: zero, pool: { quantity: zero, value: zero }, poolKey: `gone ${row.lineId}` };
  if (costMethods[row.method].keepsLayers) {
    const pool = { quantity: decimal(row.layerQuantity ?? '0'), value: decimal(row.layerValue ?? '0') };
    return { here: least(pool.quantity, net), pool, poolKey: `layer ${row.itemId}/${row.seq}` };
  }
  return {
    here: stillHere({ net, receivedLater: decimal(row.later), owned: decimal(row.owned) }),
    pool: { quantity: decimal(row.owned), value: decimal(row.worth) },
    poolKey: `item ${row.itemId}`,
  };
}

/** The pools of receipt lines, as planning costs asks for them. */
export const poolsOf = (lines: readonly ReceiptLine[]): Map<string, Pool> => new Map(lines.map(({ poolKey, pool }) => [poolKey, pool]));
