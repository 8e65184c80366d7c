import { decimal, sum } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import type * as contract from '@larder/contract/bills';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { everyWord, keyset, paged, Values, whereAll } from '../../db/page';
import { Entry } from '../../ledger/entry';
import type { Form } from './work';

type BillState = contract.BillRow['state'];

const columns = `b.id, b.number, b.kind, b.party_id AS "partyId", p.name AS party, b.reference, b.billed_on AS "billedOn", b.due_on AS "dueOn", b.currency, (b.net + b.tax) AS total,
  CASE WHEN b.undone_at IS NOT NULL OR b.posted_at IS NULL THEN 0 ELSE b.net + b.tax - x.paid END AS open,
  CASE WHEN b.undone_at IS NOT NULL THEN 'undone' WHEN b.posted_at IS NULL THEN 'waiting' WHEN x.paid = 0 THEN 'open' WHEN x.paid < b.net + b.tax THEN 'part paid' ELSE 'paid' END AS state`;
const tables = `FROM bill b JOIN party p ON p.id = b.party_id CROSS JOIN LATERAL (SELECT coalesce(sum(amount), 0) AS paid, coalesce(sum(settled), 0) AS settled FROM payment WHERE bill_id = b.id AND undone_at IS NULL) x`;

const shows: Record<QueryOf<typeof contract.listBills>['show'], string[]> = {
  open: ['b.posted_at IS NOT NULL', 'b.undone_at IS NULL', 'x.paid < b.net + b.tax'],
  waiting: ['b.posted_at IS NULL', 'b.undone_at IS NULL'],
  all: [],
};

type Row = Omit<contract.BillRow, 'late'>;
const withLate = <R extends Row>(row: R, today: string): R & { late: boolean } => ({
  ...row,
  late: row.dueOn !== null && row.dueOn < today && (row.state === 'open' || row.state === 'part paid'),
});

/** Bills, those due first; words look through numbers, party, amount and day. */
export async function bills({ tx, today }: Act, query: QueryOf<typeof contract.listBills>): Promise<ResponseOf<typeof contract.listBills>> {
  const values = new Values();
  const found = `lower(b.number || ' ' || b.reference || ' ' || p.name || ' ' || (b.net + b.tax)::text || ' ' || b.billed_on::text || ' ' || to_char(b.billed_on, 'FMDD/FMMM') || coalesce((SELECT string_agg(' ' || amount::text || ' ' || paid_on::text || ' ' || to_char(paid_on, 'FMDD/FMMM'), '') FROM payment WHERE bill_id = b.id), ''))`;
  const where = [...shows[query.show], ...everyWord(values, found, query.q)];
  if (query.partyId !== undefined) where.push(`b.party_id = ${values.add(query.partyId)}`);
  const sort = query.show === 'all' ? { sql: 'b.billed_on', type: 'date' as const } : { sql: 'coalesce(b.due_on, b.billed_on)', type: 'date' as const };
  const page = keyset(values, sort, 'b.id', { ...query, direction: query.show === 'all' ? 'down' : 'up' });
  const rows = await tx.rows<Row & { cursor: string; cursorId: number }>(
    `SELECT ${columns}, ${sort.sql}::text AS cursor, b.id AS "cursorId" ${tables} ${whereAll([...where, ...page.where])} ${page.order}`,
    values.list,
  );
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown.map((row) => withLate(row as Row, today)), next };
}

const linesSql = `SELECT l.kind, CASE l.kind WHEN 'goods' THEN o.number || ' line ' || d.position || ', ' || i.sku || ' ' || i.name WHEN 'charge' THEN s.number || ', ' || c.name ELSE l.text END AS text,
    trim_scale(l.quantity) AS quantity, l.amount, l.cleared, l.difference, l.to_stock AS "toStock", '' AS words
  FROM bill_line l LEFT JOIN purchase_line d ON d.id = l.purchase_line_id LEFT JOIN purchase_order o ON o.id = d.order_id LEFT JOIN item i ON i.id = d.item_id
   LEFT JOIN landed_charge c ON c.id = l.charge_id LEFT JOIN landed_sheet s ON s.id = c.sheet_id WHERE l.bill_id = $1 ORDER BY l.position`;

export async function bill(act: Act, id: number): Promise<contract.Bill> {
  const [row] = await act.tx.rows<Row & Pick<contract.Bill, 'rate' | 'net' | 'tax' | 'owed' | 'bookedOn' | 'note'>>(
    `SELECT ${columns}, trim_scale(b.rate) AS rate, b.net, b.tax, b.owed, b.booked_on AS "bookedOn", b.note ${tables} WHERE b.id = $1`,
    [id],
  );
  if (!row) throw new Refusal(404, 'not-found', 'There is no such bill.');
  const lines = await act.tx.rows<contract.Bill['lines'][number]>(linesSql, [id]);
  const payments = await act.tx.rows<contract.Bill['payments'][number]>(
    'SELECT id, paid_on AS "paidOn", amount, exchange, note, undone_at IS NOT NULL AS undone FROM payment WHERE bill_id = $1 ORDER BY id',
    [id],
  );
  const written = await act.tx.rows<{ accountId: number; itemId: number | null; amount: string }>(
    'SELECT j.account_id AS "accountId", j.item_id AS "itemId", j.amount FROM journal_entry e JOIN journal_line j ON j.entry_id = e.id WHERE e.bill_id = $1 AND e.payment_id IS NULL',
    [id],
  );
  const entry = await Entry.open(act);
  written.forEach(({ accountId, itemId, amount }) => entry.add(accountId, decimal(amount), itemId));
  return { ...withLate(row, act.today), lines, payments, ...entry.effects() };
}

interface FormRow {
  number: string;
  state: BillState;
  kind: 'bill' | 'credit';
  open: string;
  paid: boolean;
  total: string;
  owed: string;
  /** What standing payments took off it. */
  settled: string;
  partyId: number;
  reference: string;
  billedOn: string;
  dueOn: string | null;
  currency: string;
  rate: string;
  note: string;
}

/** A bill as it was entered, and how it stands. */
export async function formOf({ tx }: Act, id: number): Promise<FormRow & { form: Form }> {
  const [row] = await tx.rows<FormRow>(`SELECT ${columns}, x.paid > 0 AS paid, x.settled, b.owed, b.rate, b.note ${tables} WHERE b.id = $1`, [id]);
  if (!row) throw new Refusal(404, 'not-found', 'There is no such bill.');
  const lines = await tx.rows<Form['lines'][number]>(
    `SELECT CASE WHEN kind = 'goods' AND quantity IS NULL THEN 'credit' ELSE kind END AS kind, purchase_line_id AS "purchaseLineId", quantity, price, charge_id AS "chargeId", final, account_id AS "accountId", text, amount, tax_code_id AS "taxCodeId"
     FROM bill_line WHERE bill_id = $1 ORDER BY position`,
    [id],
  );
  return { ...row, form: { ...row, lines, knownReference: true, waits: false, sentBack: false } };
}

const chargesSql = `SELECT c.id, c.sheet_id AS "sheetId", s.number AS sheet, c.name, c.party_id AS "partyId", p.name AS party, c.estimate, c.cleared, c.estimate - c.cleared AS open, s.created_at::date AS since,
    (SELECT string_agg(DISTINCT coalesce(o.number, 'receipt ' || m.id), ', ') FROM landed_receipt r JOIN movement m ON m.id = r.movement_id LEFT JOIN movement_line l ON l.movement_id = m.id LEFT JOIN purchase_line d ON d.id = l.supply_line_id LEFT JOIN purchase_order o ON o.id = d.order_id WHERE r.sheet_id = s.id) AS deliveries
  FROM landed_charge c JOIN landed_sheet s ON s.id = c.sheet_id LEFT JOIN party p ON p.id = c.party_id WHERE c.removed_at IS NULL AND c.settled_at IS NULL AND c.estimate > c.cleared`;

/** Estimates of charges that wait for a bill, oldest first. */
export const openCharges = ({ tx }: Act): Promise<contract.OpenCharge[]> => tx.rows<contract.OpenCharge>(`${chargesSql} ORDER BY s.id, c.position`);

export async function billable(act: Act, partyId: number): Promise<ResponseOf<typeof contract.billable>> {
  const lines = await act.tx.rows<contract.BillableLine>(
    `SELECT l.id AS "purchaseLineId", o.id AS "orderId", o.number AS "orderNumber", l.position, i.sku, i.name, l.unit, trim_scale(l.base_quantity / l.quantity) AS factor, trim_scale(l.base_quantity) AS ordered, trim_scale(l.received) AS received, trim_scale(l.returned) AS returned, trim_scale(l.billed) AS billed,
      trim_scale(l.price) AS price, trim_scale(l.price_per) AS "pricePer", coalesce(l.tax_code_id, i.tax_code_id) AS "taxCodeId", l.currency, trim_scale(l.rate) AS rate
     FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN item i ON i.id = l.item_id
     WHERE o.supplier_id = $1 AND o.placed_at IS NOT NULL AND (l.received <> l.billed OR (l.active AND l.base_quantity - l.cancelled > l.billed)) ORDER BY o.id, l.position LIMIT 500`,
    [partyId],
  );
  const charges = await openCharges(act);
  return { lines, charges: [...charges.filter((one) => one.partyId === partyId), ...charges.filter((one) => one.partyId !== partyId)] };
}

/** Sum of the open estimates, in company currency. */
export const openEstimates = (rows: readonly contract.OpenCharge[]): string => sum(rows.map(({ open }) => decimal(open))).toFixed(2);
