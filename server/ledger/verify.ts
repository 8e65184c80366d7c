import type pg from 'pg';
import { hold } from '../db/database';

/** One law of the ledger: how many things it was held against, and the ones that break it. */
export interface Law {
  name: string;
  checked: number;
  broken: { what: string }[];
}

/** Accounts that what goes to stock, what has left and what no stock can bear stand on: together they net to zero, each by itself while the goods did not move. */
const stockSide = `a.type = 'inventory' OR a.purpose IN ('price-variance', 'cost-variance') OR EXISTS (SELECT 1 FROM item i WHERE i.cost_account_id = a.id) OR EXISTS (SELECT 1 FROM category c WHERE c.cost_account_id = a.id) OR a.purpose = 'cost-of-sales'`;
const undoneSql = `WITH undone AS (
    SELECT 'bill' AS kind, id, number FROM bill WHERE posted_at IS NOT NULL AND undone_at IS NOT NULL UNION ALL SELECT 'sheet', id, number FROM landed_sheet WHERE undone_at IS NOT NULL),
  line AS (
    SELECT u.number, e.id AS entry, j.item_id, a.type = 'inventory' AS stock, j.amount,
      CASE WHEN a.purpose IN ('grni', 'credits-expected') THEN 'goods' WHEN ${stockSide} THEN 'stock' ELSE a.code END AS side,
      CASE WHEN a.type = 'inventory' OR a.purpose = 'cost-variance' THEN 'inventory' WHEN a.purpose IN ('grni', 'credits-expected') THEN 'goods' ELSE a.code END AS account
    FROM undone u JOIN journal_entry e ON (u.kind = 'bill' AND e.bill_id = u.id) OR (u.kind = 'sheet' AND e.sheet_id = u.id) JOIN journal_line j ON j.entry_id = e.id JOIN account a ON a.id = j.account_id),
  moved AS (
    SELECT DISTINCT x.number FROM (SELECT number, min(entry) AS first, max(entry) AS last FROM line GROUP BY 1) x
    JOIN journal_entry e ON e.id > x.first AND e.id < x.last JOIN movement_line m ON m.movement_id = e.movement_id
    WHERE m.item_id IN (SELECT l.item_id FROM line l WHERE l.number = x.number AND l.item_id IS NOT NULL))
  SELECT number || ' leaves ' || sum(amount) || ' on ' || side AS what FROM line GROUP BY number, side HAVING sum(amount) <> 0
  UNION ALL SELECT number || ' leaves ' || sum(amount) || ' on ' || account FROM line WHERE number NOT IN (SELECT number FROM moved) GROUP BY number, account HAVING sum(amount) <> 0`;

/** What the movements of each document line count, by the table that says which move changes which counter; an undo takes off what its original added. */
const countedSql = `SELECT y.id,
    sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'arrived' AND r.measure = 'quantity') AS arrived, sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'drawn' AND r.measure = 'quantity') AS drawn,
    sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'finished' AND r.measure = 'quantity') AS finished, sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'returned' AND r.measure = 'quantity') AS returned,
    sum(r.sign * y.value) FILTER (WHERE r.counter = 'arrived' AND r.measure = 'value') AS arrived_value, sum(r.sign * y.value) FILTER (WHERE r.counter = 'finished' AND r.measure = 'value') AS finished_value
  FROM (SELECT d.id, d.kind, CASE WHEN m.reverses IS NULL THEN f.kind ELSE t.kind END AS from_kind, CASE WHEN m.reverses IS NULL THEN t.kind ELSE f.kind END AS to_kind,
      CASE WHEN m.reverses IS NULL THEN l.quantity ELSE -l.quantity END AS quantity, l.value + l.variance AS value
    FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
      CROSS JOIN LATERAL (VALUES (l.supply_line_id), (l.demand_line_id)) x(id) JOIN document_line d ON d.id = x.id) y
  JOIN counter_rule r ON r.document = y.kind AND r.from_kind = y.from_kind AND r.to_kind = y.to_kind GROUP BY 1`;

/** Each law as two queries: how many things are checked, and a sentence for each that breaks it. */
const laws: { name: string; count: string; broken: string }[] = [
  {
    name: 'conservation: for every item all places sum to zero',
    count: 'SELECT count(*) FROM pool',
    broken: `SELECT 'item ' || item_id || ' sums to ' || sum(quantity) AS what FROM balance GROUP BY item_id HAVING sum(quantity) <> 0`,
  },
  {
    name: 'balances equal their lines',
    count: 'SELECT count(*) FROM balance',
    broken: `SELECT 'item ' || item_id || ' at place ' || place_id || ' differs by ' || sum(quantity) AS what FROM (
        SELECT item_id, lot_id, to_place_id AS place_id, quantity FROM movement_line
        UNION ALL SELECT item_id, lot_id, from_place_id, -quantity FROM movement_line
        UNION ALL SELECT item_id, lot_id, place_id, -quantity FROM balance) x
      GROUP BY item_id, lot_id, place_id HAVING sum(quantity) <> 0`,
  },
  {
    name: 'no owned balance below zero',
    count: `SELECT count(*) FROM balance b JOIN place p ON p.id = b.place_id WHERE p.owned`,
    broken: `SELECT 'item ' || item_id || ' at ' || p.code || ' is ' || quantity AS what FROM balance b JOIN place p ON p.id = b.place_id WHERE p.owned AND quantity < 0`,
  },
  {
    name: 'document counters equal their lines',
    count: 'SELECT count(*) FROM document_line',
    broken: `SELECT d.kind || ' line ' || d.id AS what FROM document_line d LEFT JOIN (${countedSql}) x ON x.id = d.id
       LEFT JOIN (SELECT purchase_line_id AS id, sum(received) AS received FROM line_settlement GROUP BY 1) s ON s.id = d.id
       LEFT JOIN (SELECT l.supply_line_id AS id, sum(g.quantity) AS returned FROM goods_returned g JOIN movement_line l ON l.id = g.line_id GROUP BY 1) g ON g.id = d.id
      WHERE d.arrived <> coalesce(x.arrived, 0) OR d.drawn <> coalesce(x.drawn, 0) OR d.finished <> coalesce(x.finished, 0) OR d.returned <> coalesce(x.returned, 0) + coalesce(g.returned, 0)
        OR d.arrived_value <> coalesce(x.arrived_value, 0) + coalesce(s.received, 0) OR d.finished_value <> coalesce(x.finished_value, 0)`,
  },
  {
    name: 'lines of orders have what was agreed for them, and stand as their order does',
    count: "SELECT count(*) FROM document_line WHERE kind IN ('purchase', 'sales')",
    broken: `SELECT 'purchase line ' || d.id AS what FROM document_line d LEFT JOIN purchase_terms t ON t.id = d.id LEFT JOIN purchase_order o ON o.id = t.order_id
      WHERE d.kind = 'purchase' AND (o.id IS NULL OR d.number <> o.number OR d.site_id <> o.site_id OR d.brings_to_id IS DISTINCT FROM CASE WHEN o.ships_to_id IS NULL THEN o.site_id END OR d.active <> (o.placed_at IS NOT NULL AND o.closed_at IS NULL AND o.cancelled_at IS NULL))
      UNION ALL SELECT 'sales line ' || d.id FROM document_line d LEFT JOIN sales_terms t ON t.id = d.id LEFT JOIN sales_order o ON o.id = t.order_id
      WHERE d.kind = 'sales' AND (o.id IS NULL OR d.number <> o.number OR d.site_id <> o.site_id OR d.active <> (o.confirmed_at IS NOT NULL AND o.closed_at IS NULL AND o.cancelled_at IS NULL))`,
  },
  {
    name: 'what waits on a bench, in transit, on loan or in work equals what document lines drew and have not finished',
    count: `SELECT count(*) FROM place WHERE kind IN (SELECT waits_at FROM document_kind)`,
    broken: `SELECT 'item ' || item_id || ' at the ' || waits_at || ' of site ' || coalesce(site_id::text, 'none') || ' differs by ' || sum(quantity) AS what FROM (
        SELECT b.item_id, p.site_id, p.kind AS waits_at, b.quantity FROM balance b JOIN place p ON p.id = b.place_id WHERE p.kind IN (SELECT waits_at FROM document_kind)
        UNION ALL SELECT d.item_id, CASE WHEN k.waits_at = 'transit' THEN d.brings_to_id ELSE d.site_id END, k.waits_at, -(d.drawn - d.finished) FROM document_line d JOIN document_kind k ON k.kind = d.kind WHERE k.waits_at IS NOT NULL) x
      GROUP BY item_id, site_id, waits_at HAVING sum(quantity) <> 0`,
  },
  {
    name: 'what is not kept in stock lies in no place of ours',
    count: `SELECT count(*) FROM item WHERE kind <> 'stocked'`,
    broken: `SELECT 'item ' || i.sku || ' lies at ' || p.code AS what FROM item i JOIN balance b ON b.item_id = i.id JOIN place p ON p.id = b.place_id WHERE i.kind <> 'stocked' AND p.owned AND b.quantity <> 0
      UNION ALL SELECT 'line ' || l.id || ' of ' || i.sku || ' is kept or not, unlike its item' FROM (SELECT id, item_id, kept FROM purchase_line UNION ALL SELECT id, item_id, kept FROM sales_line) l JOIN item i ON i.id = l.item_id WHERE l.kept <> (i.kind = 'stocked')`,
  },
  {
    name: 'each serial is in one place, and that is the place written on it',
    count: `SELECT count(*) FROM lot WHERE kind = 'serial'`,
    broken: `SELECT 'serial ' || l.code AS what FROM lot l LEFT JOIN balance b ON b.lot_id = l.id AND b.quantity > 0 WHERE l.kind = 'serial'
      GROUP BY l.id, l.code, l.place_id HAVING count(b.place_id) > 1 OR coalesce(sum(b.quantity), 0) > 1 OR (count(b.place_id) = 1 AND max(b.place_id) IS DISTINCT FROM l.place_id)`,
  },
  {
    name: 'every pool equals its owned balances in quantity, and its lines and cost changes in value',
    count: 'SELECT count(*) FROM pool',
    broken: `SELECT 'item ' || p.item_id || ': quantity ' || p.quantity || ', value ' || p.value AS what FROM pool p
      LEFT JOIN (SELECT b.item_id, sum(b.quantity) AS q FROM balance b JOIN place x ON x.id = b.place_id WHERE x.owned GROUP BY 1) b ON b.item_id = p.item_id
      LEFT JOIN (SELECT item_id, sum(value) AS v FROM (SELECT item_id, value FROM movement_line UNION ALL SELECT item_id, amount FROM cost_change) y GROUP BY 1) v ON v.item_id = p.item_id
      WHERE p.quantity <> coalesce(b.q, 0) OR p.value <> coalesce(v.v, 0) OR p.value < 0 OR (p.quantity = 0 AND p.value <> 0)`,
  },
  {
    name: 'layers of cost equal their lines and changes, and add up to the pools of the items kept by them',
    count: 'SELECT count(*) FROM cost_layer',
    broken: `SELECT 'layer ' || seq || ' of item ' || item_id AS what FROM (
        SELECT item_id, seq, quantity, value FROM cost_layer UNION ALL SELECT item_id, layer_seq, -quantity, -value FROM layer_line
        UNION ALL SELECT l.item_id, l.seq, 0, -c.amount FROM cost_change c JOIN movement_line l ON l.id = c.movement_line_id JOIN cost_layer y ON y.item_id = l.item_id AND y.seq = l.seq) x
      GROUP BY item_id, seq HAVING sum(quantity) <> 0 OR sum(value) <> 0
      UNION ALL SELECT 'item ' || p.item_id || ' by ' || i.cost_method FROM pool p JOIN item i ON i.id = p.item_id LEFT JOIN (SELECT item_id, sum(quantity) AS quantity, sum(value) AS value FROM cost_layer GROUP BY 1) y ON y.item_id = p.item_id
      WHERE (i.cost_method <> 'average' AND (p.quantity <> coalesce(y.quantity, 0) OR p.value <> coalesce(y.value, 0))) OR (i.cost_method = 'average' AND y.item_id IS NOT NULL)
      UNION ALL SELECT 'serial ' || t.code || ' of item ' || b.item_id || ' has no layer of its own' FROM balance b JOIN item i ON i.id = b.item_id JOIN lot t ON t.id = b.lot_id
      WHERE i.cost_method = 'specific' AND b.owned AND b.quantity > 0 AND NOT EXISTS (SELECT 1 FROM cost_layer y JOIN movement_line l ON l.item_id = y.item_id AND l.seq = y.seq WHERE y.item_id = b.item_id AND l.lot_id = b.lot_id AND y.quantity = b.quantity)`,
  },
  {
    name: 'figures per item and site equal their balances, reservations and open lines, and add up per item',
    count: 'SELECT count(*) FROM item_site',
    broken: `SELECT 'item ' || item_id || ' at site ' || site_id AS what FROM (
        SELECT item_id, site_id, on_hand, reserved, on_order, short, quarantine, bench, in_transit, on_loan, in_work FROM item_site
        UNION ALL SELECT b.item_id, p.site_id, CASE WHEN p.kind = 'bin' AND x.sold THEN -b.quantity ELSE 0 END, 0, 0, 0, CASE WHEN p.kind = 'bin' AND NOT x.sold THEN -b.quantity ELSE 0 END, CASE p.kind WHEN 'bench' THEN -b.quantity ELSE 0 END,
          CASE p.kind WHEN 'transit' THEN -b.quantity ELSE 0 END, CASE p.kind WHEN 'holder' THEN -b.quantity ELSE 0 END, CASE p.kind WHEN 'in-work' THEN -b.quantity ELSE 0 END
          FROM balance b JOIN place p ON p.id = b.place_id LEFT JOIN lot l ON l.id = b.lot_id CROSS JOIN LATERAL (SELECT p.sellable AND NOT coalesce(l.past_use, false) AS sold) x WHERE p.site_id IS NOT NULL AND p.owned
        UNION ALL SELECT item_id, site_id, 0, -quantity, 0, 0, 0, 0, 0, 0, 0 FROM reservation
        UNION ALL SELECT item_id, brings_to_id, 0, 0, -incoming, 0, 0, 0, 0, 0, 0 FROM document_line WHERE incoming <> 0
        UNION ALL SELECT item_id, site_id, 0, 0, 0, -short, 0, 0, 0, 0, 0 FROM document_line) x
      GROUP BY item_id, site_id HAVING sum(on_hand) <> 0 OR sum(reserved) <> 0 OR sum(on_order) <> 0 OR sum(short) <> 0 OR sum(quarantine) <> 0 OR sum(bench) <> 0 OR sum(in_transit) <> 0 OR sum(on_loan) <> 0 OR sum(in_work) <> 0
      UNION ALL SELECT 'item ' || item_id || ' over all sites' FROM (
        SELECT item_id, on_hand, reserved, on_order, short FROM pool UNION ALL SELECT item_id, -on_hand, -reserved, -on_order, -short FROM item_site) y
      GROUP BY item_id HAVING sum(on_hand) <> 0 OR sum(reserved) <> 0 OR sum(on_order) <> 0 OR sum(short) <> 0`,
  },
  {
    name: 'inventory accounts equal the pools',
    count: `SELECT count(*) FROM account WHERE type = 'inventory'`,
    broken: `SELECT 'the books say ' || books || ', the pools ' || pools AS what FROM (
        SELECT (SELECT coalesce(sum(j.amount), 0) FROM journal_line j JOIN account a ON a.id = j.account_id WHERE a.type = 'inventory') AS books, (SELECT coalesce(sum(value), 0) FROM pool) AS pools) x WHERE books <> pools
      UNION ALL SELECT 'item ' || item_id || ' differs by ' || sum(amount) FROM (
        SELECT j.item_id, j.amount FROM journal_line j JOIN account a ON a.id = j.account_id WHERE a.type = 'inventory' UNION ALL SELECT item_id, -value FROM pool) y GROUP BY item_id HAVING sum(amount) <> 0`,
  },
  {
    name: 'goods received not invoiced equals what was received and not billed, and credits expected what was billed and went back',
    count: 'SELECT count(*) FROM purchase_line WHERE received > 0',
    broken: `SELECT 'the account says ' || books || ', the purchase lines ' || open AS what FROM (
        SELECT (SELECT -coalesce(sum(j.amount), 0) FROM journal_line j JOIN account a ON a.id = j.account_id WHERE a.purpose = 'grni') AS books,
          (SELECT coalesce(sum(greatest(received_value - billed_value, 0)), 0) FROM purchase_line) AS open) x WHERE books <> open
      UNION ALL SELECT 'credits expected are ' || books || ' in the books, ' || open || ' on the purchase lines' FROM (
        SELECT (SELECT coalesce(sum(j.amount), 0) FROM journal_line j JOIN account a ON a.id = j.account_id WHERE a.purpose = 'credits-expected') AS books,
          (SELECT coalesce(sum(greatest(billed_value - received_value, 0)), 0) FROM purchase_line) AS open) x WHERE books <> open`,
  },
  {
    name: 'what order lines count as billed equals the bills that stand',
    count: 'SELECT count(*) FROM purchase_line WHERE billed > 0',
    broken: `SELECT 'purchase line ' || d.id AS what FROM purchase_line d LEFT JOIN (
        SELECT l.purchase_line_id AS id, sum(coalesce(l.quantity, 0) * CASE b.kind WHEN 'credit' THEN -1 ELSE 1 END) AS billed, sum(l.cleared) AS cleared FROM bill_line l JOIN bill b ON b.id = l.bill_id WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL AND l.purchase_line_id IS NOT NULL GROUP BY 1) x ON x.id = d.id
       LEFT JOIN (SELECT purchase_line_id AS id, sum(billed) AS billed FROM line_settlement GROUP BY 1) s ON s.id = d.id
      WHERE d.billed <> coalesce(x.billed, 0) OR d.billed_value <> coalesce(x.cleared, 0) + coalesce(s.billed, 0)`,
  },
  {
    name: 'landed cost clearing equals its open estimates',
    count: 'SELECT count(*) FROM landed_charge',
    broken: `SELECT 'the account says ' || books || ', the open estimates ' || open AS what FROM (
        SELECT (SELECT -coalesce(sum(j.amount), 0) FROM journal_line j JOIN account a ON a.id = j.account_id WHERE a.purpose = 'landed-clearing') AS books,
          (SELECT coalesce(sum(estimate - cleared), 0) FROM landed_charge WHERE removed_at IS NULL) AS open) x WHERE books <> open
      UNION ALL SELECT 'charge ' || c.id FROM landed_charge c LEFT JOIN (
        SELECT l.charge_id AS id, sum(l.cleared) AS cleared FROM bill_line l JOIN bill b ON b.id = l.bill_id WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL AND l.charge_id IS NOT NULL GROUP BY 1) x ON x.id = c.id
      WHERE c.cleared <> coalesce(x.cleared, 0) OR (c.settled_at IS NOT NULL AND c.cleared <> c.estimate)
      UNION ALL SELECT 'charge ' || c.id || ' and its shares' FROM landed_charge c JOIN landed_share s ON s.charge_id = c.id WHERE c.removed_at IS NULL GROUP BY c.id HAVING sum(s.amount) <> c.estimate`,
  },
  {
    name: 'what is to be paid equals the open bills',
    count: 'SELECT count(*) FROM bill WHERE posted_at IS NOT NULL',
    broken: `SELECT 'the account says ' || books || ', the bills ' || open AS what FROM (
        SELECT (SELECT -coalesce(sum(j.amount), 0) FROM journal_line j JOIN account a ON a.id = j.account_id WHERE a.purpose = 'payable') AS books,
          (SELECT coalesce(sum((b.owed - coalesce((SELECT sum(settled) FROM payment WHERE bill_id = b.id AND undone_at IS NULL), 0)) * CASE b.kind WHEN 'credit' THEN -1 ELSE 1 END), 0) FROM bill b WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL) AS open) x WHERE books <> open`,
  },
  {
    name: 'a line as much billed as received has nothing open on goods received or credits expected',
    count: 'SELECT count(*) FROM purchase_line WHERE billed > 0 AND billed = received',
    broken: `SELECT 'purchase line ' || id || ' has ' || (received_value - billed_value) || ' open' AS what FROM purchase_line WHERE received = billed AND received_value <> billed_value`,
  },
  {
    name: 'a paid bill owes nothing',
    count: 'SELECT count(*) FROM bill WHERE posted_at IS NOT NULL AND undone_at IS NULL',
    broken: `SELECT b.number || ' is paid and owes ' || (b.owed - p.settled) AS what FROM bill b CROSS JOIN LATERAL (SELECT coalesce(sum(amount), 0) AS paid, coalesce(sum(settled), 0) AS settled FROM payment WHERE bill_id = b.id AND undone_at IS NULL) p
      WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL AND p.paid = b.net + b.tax AND p.settled <> b.owed`,
  },
  {
    name: 'an undone bill, credit or worksheet nets to zero on every account, and in stock too while the goods did not move',
    count:
      'SELECT (SELECT count(*) FROM bill WHERE posted_at IS NOT NULL AND undone_at IS NOT NULL) + (SELECT count(*) FROM landed_sheet WHERE undone_at IS NOT NULL)',
    broken: undoneSql,
  },
  {
    name: 'no value of stock on any day without stock',
    count: 'SELECT count(*) FROM (SELECT item_id, effective_on FROM movement_line UNION SELECT item_id, effective_on FROM cost_change) x',
    broken: `SELECT 'item ' || item_id || ' is worth ' || value || ' on ' || day AS what FROM (
        SELECT item_id, day, sum(sum(quantity)) OVER w AS quantity, sum(sum(value)) OVER w AS value FROM (
          SELECT l.item_id, l.effective_on AS day, l.quantity * (t.owned::int - f.owned::int) AS quantity, l.value FROM movement_line l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
          UNION ALL SELECT item_id, effective_on, 0, amount FROM cost_change) x
        GROUP BY 1, 2 WINDOW w AS (PARTITION BY item_id ORDER BY day)) y WHERE quantity = 0 AND value <> 0`,
  },
  {
    name: 'what is kept by lots or serials lies nowhere without one, and nothing else has one',
    count: "SELECT count(*) FROM balance b JOIN item i ON i.id = b.item_id WHERE b.owned AND b.quantity > 0 AND i.tracking <> 'none'",
    broken: `SELECT i.sku || ' at ' || p.code AS what FROM balance b JOIN item i ON i.id = b.item_id JOIN place p ON p.id = b.place_id LEFT JOIN lot l ON l.id = b.lot_id WHERE b.owned AND b.quantity > 0 AND coalesce(l.kind, 'none') <> i.tracking`,
  },
  {
    name: 'what came, was billed and was credited of a line is the cumulative share of its amount for its quantity',
    count: 'SELECT (SELECT count(*) FROM purchase_line WHERE received > 0) + (SELECT count(*) FROM bill_line WHERE cumulative AND quantity IS NOT NULL)',
    broken: `SELECT 'purchase line ' || d.id || ': ' || d.received || ' came in at ' || d.received_value AS what FROM purchase_line d
      CROSS JOIN LATERAL (SELECT f.kind = 'supplier' AND m.reverses IS NULL AS came FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id WHERE l.supply_line_id = d.id ORDER BY l.id DESC LIMIT 1) last
      WHERE last.came AND d.received_value <> round(round(d.amount * d.rate, 2) * d.received / d.base_quantity, 2)
      UNION ALL SELECT x.kind || 's of purchase line ' || x.id || ' count ' || x.amount FROM (
        SELECT d.id, b.kind, b.currency, max(b.posted_at) AS posted, bool_and(l.cumulative) AS exact, sum(l.amount) AS amount, max(scale(l.amount)) AS places, sum(l.quantity * l.price) * d.quantity / (d.base_quantity * d.price_per) AS share
        FROM bill_line l JOIN bill b ON b.id = l.bill_id JOIN purchase_line d ON d.id = l.purchase_line_id WHERE l.quantity IS NOT NULL AND b.posted_at IS NOT NULL AND b.undone_at IS NULL GROUP BY d.id, d.quantity, d.base_quantity, d.price_per, b.kind, b.currency) x
      WHERE x.exact AND x.amount <> round(x.share, x.places) AND NOT EXISTS (SELECT 1 FROM bill u JOIN bill_line l ON l.bill_id = u.id WHERE l.purchase_line_id = x.id AND u.kind = x.kind AND u.currency = x.currency AND u.undone_at >= x.posted)`,
  },
  {
    name: 'every entry balances',
    count: 'SELECT count(*) FROM journal_entry',
    broken: `SELECT 'entry ' || entry_id || ' is off by ' || sum(amount) AS what FROM journal_line GROUP BY entry_id HAVING sum(amount) <> 0`,
  },
  {
    name: 'reserved never exceeds on hand',
    count: 'SELECT count(*) FROM item_site',
    broken: `SELECT 'item ' || item_id || ' at site ' || site_id || ': ' || reserved || ' of ' || on_hand AS what FROM item_site WHERE reserved > on_hand OR reserved < 0`,
  },
  {
    name: 'an undo points at a movement of the same lines turned round',
    count: 'SELECT count(*) FROM movement WHERE reverses IS NOT NULL',
    broken: `SELECT 'undo ' || m.id AS what FROM movement m WHERE m.reverses IS NOT NULL AND EXISTS (
        (SELECT item_id, lot_id, quantity, from_place_id, to_place_id FROM movement_line WHERE movement_id = m.id
         EXCEPT SELECT item_id, lot_id, quantity, to_place_id, from_place_id FROM movement_line WHERE movement_id = m.reverses))`,
  },
  {
    name: 'gapless numbers have no gaps (no invoices yet)',
    count: 'SELECT count(*) FROM counter WHERE gapless',
    broken: `SELECT 'counter ' || kind AS what FROM counter WHERE gapless AND next <> 1`,
  },
];

/** Holds the whole database against every law, in one snapshot. */
export async function verify(pool: pg.Pool): Promise<Law[]> {
  return hold(pool, async (client) => {
    await client.query('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY');
    try {
      return await verifyWithin(client);
    } finally {
      await client.query('ROLLBACK');
    }
  });
}

/** The same, as seen by a transaction that is already open. */
export async function verifyWithin(client: pg.PoolClient): Promise<Law[]> {
  const results: Law[] = [];
  for (const law of laws) {
    const count = await client.query<{ count: number }>(law.count);
    const broken = await client.query<{ what: string }>(`${law.broken} LIMIT 20`);
    results.push({ name: law.name, checked: Number(Object.values(count.rows[0] ?? {})[0]), broken: broken.rows });
  }
  return results;
}
