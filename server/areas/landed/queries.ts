import { decimal } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/landed';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { everyWord, Values, whereAll } from '../../db/page';
import { receiptLines, type ReceiptLine } from '../../ledger/receipts';
import { openCharges, openEstimates } from '../bills/queries';

/** Receipts that stand, newest first, with the worksheets they are on: the last ones, or with words the last 20,000 looked through. */
export async function receipts({ tx }: Act, q: string | undefined): Promise<contract.Receipt[]> {
  const values = new Values();
  const where = everyWord(values, `lower(x.supplier || ' ' || coalesce(x.orders, '') || ' ' || x.note || ' ' || x.day)`, q);
  return tx.rows<contract.Receipt>(
    `SELECT x.* FROM (
      SELECT m.id AS "movementId", m.effective_on::text AS day, m.note, count(*)::int AS lines, sum(l.value + l.variance) AS value, coalesce(max(p.name), 'nobody') AS supplier, coalesce(string_agg(DISTINCT o.number, ', '), '') AS orders,
        (SELECT coalesce(json_agg(json_build_object('id', s.id, 'number', s.number)), '[]') FROM landed_receipt r JOIN landed_sheet s ON s.id = r.sheet_id WHERE r.movement_id = m.id AND s.undone_at IS NULL) AS sheets
      FROM (SELECT * FROM movement WHERE kind IN ('receipt', 'drop-shipment') ORDER BY id DESC LIMIT ${values.add(q?.trim() ? 20_000 : 400)}) m JOIN movement_line l ON l.movement_id = m.id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id LEFT JOIN party p ON p.id = f.party_id
       LEFT JOIN purchase_line d ON d.id = l.supply_line_id LEFT JOIN purchase_order o ON o.id = d.order_id
      WHERE f.kind = 'supplier' AND t.kind <> 'used-up' AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id) GROUP BY m.id, m.effective_on, m.note) x ${whereAll(where)} ORDER BY x."movementId" DESC LIMIT 60`,
    values.list,
  );
}

type Facts = Omit<contract.LandedLine, 'here' | 'quantity' | 'value'>;

/** What receipts brought and was not all sent back, with what each line is measured by, in the order they came in. */
export const linesOfReceipts = async (act: Act, movementIds: readonly number[]): Promise<contract.LandedLine[]> =>
  landedLines(
    act,
    (await receiptLines(act, { movementIds })).filter(({ net }) => net.gt(0)),
  );

/** Receipt lines with what each is measured by: as many, and at what they cost, as `measured` says, else net of what went back. */
export async function landedLines(
  act: Act,
  lines: readonly ReceiptLine[],
  measured: ReadonlyMap<number, { quantity: string; value: string }> = new Map(),
): Promise<contract.LandedLine[]> {
  const facts = await act.tx.rows<Facts>(
    `SELECT l.id AS "lineId", l.movement_id AS "movementId", i.id AS "itemId", i.sku, i.name, (SELECT code FROM lot WHERE id = l.lot_id) AS lot, u.code AS unit, coalesce(p.name, 'nobody') AS supplier, o.number AS "orderNumber", (SELECT coalesce(sum(c.whole), 0)::numeric(18, 2) FROM cost_change c WHERE c.movement_line_id = l.id AND c.bill_line_id IS NOT NULL) AS "billedDifference",
      trim_scale(i.weight_kg) AS weight, trim_scale((i.length_cm * i.width_cm * i.height_cm / 1000000)::numeric(18, 8)) AS volume
     FROM movement_line l JOIN item i ON i.id = l.item_id JOIN unit u ON u.id = i.unit_id JOIN place f ON f.id = l.from_place_id LEFT JOIN party p ON p.id = f.party_id
      LEFT JOIN purchase_line d ON d.id = l.supply_line_id LEFT JOIN purchase_order o ON o.id = d.order_id WHERE l.id = ANY($1) ORDER BY l.movement_id, l.position`,
    [lines.map(({ lineId }) => lineId)],
  );
  return facts.map((line): contract.LandedLine => {
    const { net, here, brought, returned } = lines.find(({ lineId }) => lineId === line.lineId) as ReceiptLine;
    const { quantity, value } = measured.get(line.lineId) ?? { quantity: net.toFixed(), value: brought.amount.minus(returned.amount).toFixed(2) };
    return { ...line, quantity, value, here: net.isZero() ? '0' : here.div(net).toFixed(4) };
  });
}

/** What the orders of these receipts cost beside their goods, as the first charges of a worksheet; an order that is on a worksheet already has told its own. */
export const orderedCharges = ({ tx }: Act, movementIds: readonly number[]): Promise<contract.OrderedCharge[]> =>
  tx.rows(
    `SELECT h.label AS name, h.amount::text AS amount, o.currency, trim_scale(o.rate)::text AS rate, p.id AS "partyId", p.name AS party
     FROM purchase_charge h JOIN purchase_order o ON o.id = h.order_id JOIN party p ON p.id = o.supplier_id
     WHERE o.id IN (SELECT d.order_id FROM movement_line l JOIN purchase_line d ON d.id = l.supply_line_id WHERE l.movement_id = ANY($1))
      AND NOT EXISTS (SELECT 1 FROM landed_receipt r JOIN landed_sheet s ON s.id = r.sheet_id AND s.undone_at IS NULL JOIN movement_line l ON l.movement_id = r.movement_id JOIN purchase_line d ON d.id = l.supply_line_id WHERE d.order_id = o.id)
     ORDER BY o.id, h.position`,
    [movementIds],
  );

export async function sheets({ tx }: Act, q: string | undefined): Promise<ResponseOf<typeof contract.listSheets>['rows']> {
  const values = new Values();
  const where = everyWord(values, `lower(x.number || ' ' || coalesce(x.deliveries, '') || ' ' || coalesce(x.charges, ''))`, q);
  return tx.rows(
    `SELECT x.* FROM (SELECT s.id, s.number, s.created_at AS "createdAt", s.undone_at IS NOT NULL AS undone, coalesce(c.charges, '') AS charges, coalesce(c.estimate, 0)::numeric(18, 2) AS estimate, coalesce(c.open, 0)::numeric(18, 2) AS open, coalesce(r.deliveries, '') AS deliveries
      FROM landed_sheet s LEFT JOIN LATERAL (SELECT string_agg(name, ', ' ORDER BY position) AS charges, sum(estimate) AS estimate, sum(CASE WHEN settled_at IS NULL THEN estimate - cleared ELSE 0 END) AS open FROM landed_charge WHERE sheet_id = s.id AND removed_at IS NULL) c ON true
       LEFT JOIN LATERAL (SELECT string_agg(DISTINCT coalesce(o.number, 'receipt ' || r.movement_id), ', ') AS deliveries FROM landed_receipt r LEFT JOIN movement_line l ON l.movement_id = r.movement_id LEFT JOIN purchase_line d ON d.id = l.supply_line_id LEFT JOIN purchase_order o ON o.id = d.order_id WHERE r.sheet_id = s.id) r ON true) x
     ${whereAll(where)} ORDER BY x.id DESC LIMIT 200`,
    values.list,
  );
}

type Head = Pick<contract.Sheet, 'id' | 'number' | 'version' | 'note' | 'undone' | 'createdAt' | 'movementIds'>;

export async function sheet(act: Act, id: number): Promise<contract.Sheet> {
  const [head] = await act.tx.rows<Head>(
    `SELECT s.id, s.number, s.version, s.note, s.undone_at IS NOT NULL AS undone, s.created_at AS "createdAt", (SELECT json_agg(movement_id ORDER BY movement_id) FROM landed_receipt WHERE sheet_id = s.id) AS "movementIds" FROM landed_sheet s WHERE s.id = $1`,
    [id],
  );
  if (!head) throw new Refusal(404, 'not-found', 'There is no such worksheet.');
  const charges = await act.tx.rows<contract.Sheet['charges'][number]>(
    `SELECT c.id, c.name, c.by, c.amount, c.currency, trim_scale(c.rate) AS rate, c.party_id AS "partyId", p.name AS party, c.estimate, c.cleared, c.cleared > 0 OR c.settled_at IS NOT NULL AS billed,
      (SELECT coalesce(json_agg(line_id) FILTER (WHERE left_out), '[]') FROM landed_share WHERE charge_id = c.id) AS "leftOut",
      (SELECT coalesce(json_agg(json_build_object('lineId', line_id, 'part', trim_scale(typed)::text)) FILTER (WHERE typed IS NOT NULL), '[]') FROM landed_share WHERE charge_id = c.id) AS typed,
      (SELECT coalesce(sum(to_stock), 0)::numeric(18, 2) FROM landed_share WHERE charge_id = c.id) AS "toStock"
     FROM landed_charge c LEFT JOIN party p ON p.id = c.party_id WHERE c.sheet_id = $1 AND c.removed_at IS NULL ORDER BY c.position`,
    [id],
  );
  const measured = await act.tx.rows<{ lineId: number; quantity: string; value: string }>(
    'SELECT line_id AS "lineId", trim_scale(quantity) AS quantity, value FROM landed_line WHERE sheet_id = $1',
    [id],
  );
  const lines = (await receiptLines(act, { movementIds: head.movementIds })).filter(({ lineId }) => measured.some((line) => line.lineId === lineId));
  return { ...head, lines: await landedLines(act, lines, new Map(measured.map((line) => [line.lineId, line]))), charges };
}

/** Open estimates, and the balance of the account they must add up to. */
export async function clearing(act: Act): Promise<ResponseOf<typeof contract.clearing>> {
  const rows = await openCharges(act);
  const [account] = await act.tx.rows<{ balance: string }>(
    `SELECT -coalesce(sum(j.amount), 0)::numeric(18, 2) AS balance FROM journal_line j JOIN account a ON a.id = j.account_id WHERE a.purpose = 'landed-clearing'`,
  );
  const balance = account?.balance ?? '0.00';
  if (!decimal(balance).eq(openEstimates(rows))) throw new Error(`the clearing account says ${balance}, its open entries ${openEstimates(rows)}`);
  return { rows, balance };
}
