import { dayOf } from '@larder/core/day';
import { decimal, greatest, least, zero } from '@larder/core/decimal';
import { costMethods } from '@larder/core/costing/method';
import { goodsOpen } from '@larder/core/ledger/goodsOpen';
import type { Movement, MovementLine } from '@larder/core/ledger/types';
import type pg from 'pg';
import { actOf, type Act } from '../act';
import { transaction } from '../db/database';
import { post } from './door';
import { Entry, writeEntry } from './entry';
import { lock } from './lock';
import { settlePastDays } from './pastDays';
import { settleLines } from './settleLines';
import { readState } from './state';

/** How many repairs there are: a business founded now needs none of them. */
export const repairs = 1;

/**
 * Puts right, once for each database, the cents that earlier versions left: by ordinary entries of today that say so. Returns what was put right, in words.
 * Books that are right already stay as they are.
 */
export async function repair(pool: pg.Pool, now: Date): Promise<string[]> {
  return transaction(pool, 'write', async (tx) => {
    const [company] = await tx.rows<{ zone: string; repaired: number }>('SELECT time_zone AS zone, repaired FROM company FOR UPDATE');
    const [by] = await tx.rows<{ id: number; name: string; email: string }>('SELECT id, name, email FROM person ORDER BY id LIMIT 1');
    if (!company || !by || company.repaired >= repairs) return [];
    const act = actOf({ tx, by: { ...by, grants: [] }, now, today: dayOf(now, company.zone) });
    const done = [
      ...(await receivedAmounts(act)),
      ...(await openLines(act)),
      ...(await paidBills(act)),
      ...(await undoneDocuments(act)),
      ...(await untracked(act)),
      ...(await pastDays(act)),
    ];
    await tx.rows('UPDATE company SET repaired = $1', [repairs]);
    return done;
  });
}

/** What came in on a line is the cumulative share of its amount: receipts undone in between left cents. */
async function receivedAmounts(act: Act): Promise<string[]> {
  const rows = await act.tx.rows<{ id: number; label: string; open: string; missing: string }>(
    `SELECT d.id, o.number || ' line ' || d.position AS label, d.received_value - d.billed_value AS open, round(round(d.amount * d.rate, 2) * d.received / d.base_quantity, 2) - d.received_value AS missing
     FROM purchase_line d JOIN purchase_order o ON o.id = d.order_id
     CROSS JOIN LATERAL (SELECT f.kind = 'supplier' AND m.reverses IS NULL AS came FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id WHERE l.supply_line_id = d.id ORDER BY l.id DESC LIMIT 1) last
     WHERE last.came AND d.received_value <> round(round(d.amount * d.rate, 2) * d.received / d.base_quantity, 2) ORDER BY d.id`,
  );
  for (const { id, label, open, missing } of rows) {
    await act.tx.rows('INSERT INTO line_settlement (purchase_line_id, received) VALUES ($1, $2)', [id, missing]);
    const { grni, creditsExpected } = goodsOpen(decimal(open), decimal(open).plus(missing));
    const entry = await Entry.open(act);
    entry.add('grni', grni);
    entry.add('credits-expected', creditsExpected);
    entry.add('price-variance', decimal(missing));
    await writeEntry(act, { effectiveOn: act.today, text: `put right: what came in on ${label} was off by ${missing}` }, entry);
  }
  return rows.map(({ label, missing }) => `what came in on ${label} was off by ${missing}`);
}

/** A line as much billed as received has nothing open. */
async function openLines(act: Act): Promise<string[]> {
  const rows = await act.tx.rows<{ id: number; label: string; open: string }>(
    `SELECT l.id, o.number || ' line ' || l.position AS label, l.received_value - l.billed_value AS open FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id WHERE l.received = l.billed AND l.received_value <> l.billed_value ORDER BY l.id`,
  );
  await settleLines(
    act,
    rows.map(({ id }) => id),
    act.today,
  );
  return rows.map(({ label, open }) => `${label} was billed whole and had ${open} open`);
}

/** A paid bill owes nothing: the last payment takes the rest. */
async function paidBills(act: Act): Promise<string[]> {
  const rows = await act.tx.rows<{ id: number; number: string; credit: boolean; left: string; paymentId: number }>(
    `SELECT b.id, b.number, b.kind = 'credit' AS credit, b.owed - p.settled AS left, p.last AS "paymentId" FROM bill b
     CROSS JOIN LATERAL (SELECT sum(amount) AS paid, sum(settled) AS settled, max(id) AS last FROM payment WHERE bill_id = b.id AND undone_at IS NULL) p
     WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL AND p.paid = b.net + b.tax AND p.settled <> b.owed ORDER BY b.id`,
  );
  for (const { id, number, credit, left, paymentId } of rows) {
    await act.tx.rows('UPDATE payment SET settled = settled + $2, exchange = exchange - $2 WHERE id = $1', [paymentId, left]);
    const amount = credit ? decimal(left).neg() : decimal(left);
    const entry = await Entry.open(act);
    entry.add('payable', amount);
    entry.add('exchange-difference', amount.neg());
    await writeEntry(act, { effectiveOn: act.today, text: `put right: ${number} was paid and owed ${left}`, billId: id, paymentId }, entry);
  }
  return rows.map(({ number, left }) => `${number} was paid and owed ${left}`);
}

interface Left {
  kind: 'bill' | 'sheet';
  id: number;
  number: string;
  accountId: number;
  itemId: number | null;
  stock: boolean;
  left: string;
}

/** What an undone bill or worksheet left on accounts though no goods had moved comes off; of stock no more than it is worth. */
async function undoneDocuments(act: Act): Promise<string[]> {
  const rows = await act.tx.rows<Left>(
    `WITH undone AS (SELECT 'bill' AS kind, id, number FROM bill WHERE posted_at IS NOT NULL AND undone_at IS NOT NULL UNION ALL SELECT 'sheet', id, number FROM landed_sheet WHERE undone_at IS NOT NULL),
      line AS (SELECT u.*, e.id AS entry, a.id AS account, a.type = 'inventory' AS stock, a.type = 'inventory' OR a.purpose = 'cost-variance' AS either, j.item_id, j.amount FROM undone u
        JOIN journal_entry e ON (u.kind = 'bill' AND e.bill_id = u.id) OR (u.kind = 'sheet' AND e.sheet_id = u.id) JOIN journal_line j ON j.entry_id = e.id JOIN account a ON a.id = j.account_id WHERE a.purpose IS DISTINCT FROM 'grni' AND a.purpose IS DISTINCT FROM 'credits-expected'),
      moved AS (SELECT DISTINCT x.number FROM (SELECT number, min(entry) AS first, max(entry) AS last FROM line GROUP BY 1) x JOIN journal_entry e ON e.id > x.first AND e.id < x.last JOIN movement_line m ON m.movement_id = e.movement_id
        WHERE m.item_id IN (SELECT l.item_id FROM line l WHERE l.number = x.number AND l.item_id IS NOT NULL)),
      off AS (SELECT number FROM line WHERE either AND number NOT IN (SELECT number FROM moved) GROUP BY number HAVING sum(amount) <> 0)
     SELECT kind, id, number, account AS "accountId", item_id AS "itemId", stock, sum(amount) AS left FROM line WHERE number IN (SELECT number FROM off) GROUP BY 1, 2, 3, 4, 5, 6 HAVING sum(amount) <> 0 ORDER BY 1, 2`,
  );
  for (const number of new Set(rows.map((row) => row.number)))
    await turnRest(
      act,
      rows.filter((row) => row.number === number),
    );
  return [...new Set(rows.map(({ number }) => number))].map(
    (number) =>
      `${number} was undone and had left ${rows
        .filter((row) => row.number === number && row.stock)
        .map(({ left }) => left)
        .join(', ')} in stock`,
  );
}

async function turnRest(act: Act, rows: readonly Left[]): Promise<void> {
  const [first] = rows;
  if (!first) return;
  await lock.pools(
    act,
    rows.flatMap(({ itemId }) => (itemId === null ? [] : [itemId])),
  );
  const entry = await Entry.open(act);
  for (const { accountId, itemId, stock, left } of rows) {
    if (!stock || itemId === null) {
      entry.add(accountId, decimal(left).neg(), itemId);
      continue;
    }
    // Of a pool, or of its newest layer, no more than it is worth comes off.
    const [pool] = await act.tx.rows<{ value: string; quantity: string; lineId: number | null }>(
      `SELECT coalesce(y.value, p.value) AS value, p.quantity, y.line AS "lineId" FROM pool p LEFT JOIN LATERAL (SELECT c.value, l.id AS line FROM cost_layer c JOIN movement_line l ON l.item_id = c.item_id AND l.seq = c.seq WHERE c.item_id = p.item_id AND c.quantity > 0 ORDER BY c.value DESC, c.seq DESC LIMIT 1) y ON true WHERE p.item_id = $1`,
      [itemId],
    );
    const worth = decimal(pool?.quantity ?? 0).isZero() ? zero : decimal(pool?.value ?? 0);
    const off = decimal(left).gt(0) ? least(decimal(left), worth) : worth.isZero() ? zero : decimal(left);
    entry.add(accountId, off.neg(), itemId);
    entry.add('cost-variance', off.minus(left));
    if (!off.isZero())
      await act.tx.rows(
        "INSERT INTO cost_change (item_id, movement_line_id, amount, cause, effective_on, seq) SELECT item_id, $2, $3, 'put right', $4, last_seq + 1 FROM pool WHERE item_id = $1",
        [itemId, pool?.lineId ?? null, off.neg().toFixed(2), act.today],
      );
  }
  const of = first.kind === 'bill' ? { billId: first.id } : { sheetId: first.id };
  await writeEntry(act, { effectiveOn: act.today, text: `put right: what ${first.number} left when it was undone`, ...of }, entry);
}

/** What lies without a lot though its item is kept by lots, or with one though it is not, gets one, or loses it. */
async function untracked(act: Act): Promise<string[]> {
  const rows = await act.tx.rows<{ itemId: number; sku: string; tracking: string; lotId: number | null; placeId: number; place: string; quantity: string }>(
    `SELECT b.item_id AS "itemId", i.sku, i.tracking, b.lot_id AS "lotId", b.place_id AS "placeId", p.code AS place, trim_scale(b.quantity) AS quantity FROM balance b JOIN item i ON i.id = b.item_id JOIN place p ON p.id = b.place_id LEFT JOIN lot l ON l.id = b.lot_id
     WHERE b.owned AND b.quantity > 0 AND coalesce(l.kind, 'none') <> i.tracking ORDER BY b.item_id, b.place_id`,
  );
  const [place] = await act.tx.rows<{ id: number }>("SELECT id FROM place WHERE kind = 'relabel' AND site_id IS NULL");
  for (const row of rows) await relabel(act, row, place?.id as number);
  return rows.map(
    ({ sku, quantity, place: bin, tracking }) => `${quantity} of ${sku} at ${bin} lay there ${tracking === 'none' ? 'with' : 'without'} a lot or serial`,
  );
}

async function relabel(
  act: Act,
  { itemId, lotId, placeId, tracking, quantity }: { itemId: number; lotId: number | null; placeId: number; tracking: string; quantity: string },
  relabelId: number,
): Promise<void> {
  await lock.pools(act, [itemId]);
  const parts = tracking === 'serial' ? Array.from({ length: Math.ceil(Number(quantity)) }, () => decimal(1)) : [decimal(quantity)];
  for (const part of parts) {
    const out: MovementLine = {
      itemId,
      lotId,
      quantity: part,
      fromPlaceId: placeId,
      toPlaceId: relabelId,
      valuation: { by: 'current' },
      serves: [],
      field: 'lines',
    };
    const movement: Movement = {
      kind: 'relabel',
      effectiveOn: act.today,
      lines: [out],
      reasonId: null,
      reversesId: null,
      note: 'put right: its lot was not known',
    };
    const item = (await readState(act, movement)).items.get(itemId);
    if (!item) throw new Error('the item was not read');
    const { value } = costMethods[item.costMethod].take(item, { quantity: part, lotId, named: [] });
    const [lot] =
      tracking === 'none'
        ? [{ id: null }]
        : await act.tx.rows<{ id: number }>(
            `INSERT INTO lot (item_id, kind, code) SELECT $1, $2, 'UNKNOWN-' || (SELECT count(*) + 1 FROM lot WHERE item_id = $1 AND code LIKE 'UNKNOWN-%') RETURNING id`,
            [itemId, tracking],
          );
    const back: MovementLine = {
      ...out,
      lotId: lot?.id ?? null,
      fromPlaceId: relabelId,
      toPlaceId: placeId,
      valuation: { by: 'stated', value: greatest(value, zero) },
    };
    await post(act, { ...movement, lines: [out, back] });
  }
}

/** No value of stock on any day without stock. */
async function pastDays(act: Act): Promise<string[]> {
  const rows = await act.tx.rows<{ itemId: number; sku: string; day: string }>(
    `SELECT y.item_id AS "itemId", i.sku, min(y.day)::text AS day FROM (
       SELECT item_id, day, sum(sum(quantity)) OVER w AS quantity, sum(sum(value)) OVER w AS value FROM (
         SELECT l.item_id, l.effective_on AS day, l.quantity * (t.owned::int - f.owned::int) AS quantity, l.value FROM movement_line l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
         UNION ALL SELECT item_id, effective_on, 0, amount FROM cost_change) x
       GROUP BY 1, 2 WINDOW w AS (PARTITION BY item_id ORDER BY day)) y JOIN item i ON i.id = y.item_id
     WHERE y.quantity = 0 AND y.value <> 0 GROUP BY 1, 2 ORDER BY 1`,
  );
  await lock.pools(
    act,
    rows.map(({ itemId }) => itemId),
  );
  for (const { itemId, day } of rows) await settlePastDays(act, [itemId], day);
  return rows.map(({ sku, day }) => `${sku} had a value without stock on ${day}`);
}
