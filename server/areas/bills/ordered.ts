import type { Act } from '../../act';
import type { Form } from './work';

/** An order line as a bill sees it. */
export interface OrderedLine {
  id: number;
  label: string;
  sku: string;
  supplierId: number;
  placed: boolean;
  baseQuantity: string;
  quantity: string;
  price: string;
  pricePer: string;
  amount: string;
  rate: string;
  /** Net of what went back, and what went back. */
  received: string;
  returned: string;
  /** The last day anything went back. */
  returnedOn: string | null;
  billed: string;
  /** What came in at, and what bills cleared of it, in company currency. */
  receivedValue: string;
  billedValue: string;
  /** What standing bills, or credits, in this currency count for it already. */
  parts: { quantity: string; price: string; amount: string; rate: string; company: string }[];
}

export interface Charge {
  id: number;
  label: string;
  estimate: string;
  cleared: string;
  over: boolean;
  /** The day its estimate was posted last. */
  postedOn: string | null;
}

/** The order lines that a bill or credit in that currency names, with their orders locked. */
export async function orderedLines({ tx }: Act, form: Form, currency: string): Promise<Map<number, OrderedLine>> {
  const ids = form.lines.flatMap((line) => (line.kind === 'goods' || line.kind === 'credit' ? [line.purchaseLineId] : []));
  const rows = await tx.rows<OrderedLine>(
    `SELECT l.id, o.number || ' line ' || l.position AS label, i.sku, o.supplier_id AS "supplierId", o.placed_at IS NOT NULL AS placed, l.base_quantity AS "baseQuantity", l.quantity, l.price, l.price_per AS "pricePer", l.amount, l.rate,
      l.received, l.returned, l.billed, l.received_value AS "receivedValue", l.billed_value AS "billedValue",
      (SELECT max(m.effective_on) FROM movement_line m JOIN goods_returned g ON g.line_id = m.id WHERE m.supply_line_id = l.id)::text AS "returnedOn",
      (SELECT coalesce(json_agg(json_build_object('quantity', x.quantity::text, 'price', x.price::text, 'amount', x.amount::text, 'rate', b.rate::text, 'company', abs(x.cleared + x.difference)::text) ORDER BY x.id), '[]')
        FROM bill_line x JOIN bill b ON b.id = x.bill_id WHERE x.purchase_line_id = l.id AND x.quantity IS NOT NULL AND b.kind = $2 AND b.currency = $3 AND b.posted_at IS NOT NULL AND b.undone_at IS NULL) AS parts
     FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN item i ON i.id = l.item_id WHERE l.id = ANY($1)`,
    [ids, form.kind, currency],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** The charges that a bill names, with their worksheets locked. */
export async function openCharges({ tx }: Act, form: Form): Promise<Map<number, Charge>> {
  const ids = form.lines.flatMap((line) => (line.kind === 'charge' ? [line.chargeId] : []));
  const rows = await tx.rows<Charge>(
    `SELECT c.id, s.number || ', ' || c.name AS label, c.estimate, c.cleared, c.settled_at IS NOT NULL OR c.removed_at IS NOT NULL AS over, (SELECT max(effective_on)::text FROM journal_entry WHERE sheet_id = s.id) AS "postedOn"
     FROM landed_charge c JOIN landed_sheet s ON s.id = c.sheet_id WHERE c.id = ANY($1)`,
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}
