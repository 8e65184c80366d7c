-- One posting of five lines as the server does it: the same statements, prepared, in one transaction. What the server decides is decided here by the pool itself.
\set a random(0, 399)
\set b random(400, 799)
\set c random(800, 1199)
\set d random(1200, 1599)
\set e random(1600, 1999)
SELECT p.id FROM session s JOIN person p ON p.id = s.person_id WHERE s.token_hash = 'none' AND s.expires_at > now() AND p.active;
BEGIN;
INSERT INTO idempotency (person_id, route, key, request_hash) VALUES (1, 'pgbench', md5(random()::text || clock_timestamp()::text), 'x') ON CONFLICT DO NOTHING RETURNING key AS k \gset
SELECT p.id FROM reason r JOIN place p ON p.kind = r.place AND p.site_id IS NULL AND p.party_id IS NULL WHERE r.id = 1 AND r.retired_at IS NULL;
SELECT i.id, i.sku, trim_scale(u.step)::text AS step, u.code FROM item i JOIN unit u ON u.id = i.unit_id WHERE i.id = ANY(ARRAY[:a * 10 + 2, :b * 10 + 2, :c * 10 + 2, :d * 10 + 2, :e * 10 + 2]::int[]);
SELECT id, site_id FROM place WHERE kind = 'bin' AND id = ANY(ARRAY[13, 14, 15, 16, 17]);
SELECT 1 FROM pool WHERE item_id = ANY(ARRAY[:a * 10 + 2, :b * 10 + 2, :c * 10 + 2, :d * 10 + 2, :e * 10 + 2]::int[]) ORDER BY item_id FOR NO KEY UPDATE;
SELECT 1 FROM place WHERE id = ANY(ARRAY[13, 14]) ORDER BY id FOR KEY SHARE;
SELECT (SELECT json_agg(json_build_object('id', id, 'kind', kind)) FROM place WHERE id = ANY(ARRAY[13, 14])), (SELECT json_agg(json_build_object('id', i.id, 'sku', i.sku, 'quantity', p.quantity::text, 'value', p.value::text, 'seq', p.last_seq)) FROM item i JOIN pool p ON p.item_id = i.id JOIN unit u ON u.id = i.unit_id WHERE i.id = ANY(ARRAY[:a * 10 + 2, :b * 10 + 2, :c * 10 + 2, :d * 10 + 2, :e * 10 + 2]::int[])), (SELECT json_agg(json_build_object('item', item_id, 'quantity', quantity::text)) FROM balance WHERE item_id = ANY(ARRAY[:a * 10 + 2, :b * 10 + 2, :c * 10 + 2, :d * 10 + 2, :e * 10 + 2]::int[]) AND place_id = ANY(ARRAY[13, 14])), (SELECT json_agg(json_build_object('id', l.id, 'wanted', l.wanted::text)) FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.item_id = ANY(ARRAY[:a * 10 + 2, :b * 10 + 2, :c * 10 + 2, :d * 10 + 2, :e * 10 + 2]::int[]) AND l.site_id = 1 AND l.wanted > 0);
WITH m AS (INSERT INTO movement (kind, effective_on, posted_at, person_id, reason_id) VALUES ('correction', current_date, now(), 1, 1) RETURNING id), l AS (INSERT INTO movement_line (movement_id, effective_on, position, item_id, quantity, from_place_id, to_place_id, value, seq) SELECT m.id, current_date, p.item_id, p.item_id, 1, (SELECT id FROM place WHERE kind = 'found-or-lost'), 13, round(p.unit_cost, 2), p.last_seq + 1 FROM m, pool p WHERE p.item_id = ANY(ARRAY[:a * 10 + 2, :b * 10 + 2, :c * 10 + 2, :d * 10 + 2, :e * 10 + 2]::int[]) RETURNING item_id, value), e AS (INSERT INTO journal_entry (movement_id, effective_on, posted_at, text) SELECT m.id, current_date, now(), 'correction' FROM m RETURNING id) INSERT INTO journal_line (entry_id, account_id, item_id, amount) SELECT e.id, 1, l.item_id, l.value FROM e, l UNION ALL SELECT e.id, (SELECT id FROM account WHERE purpose = 'stock-differences'), NULL, -sum(l.value) FROM e, l GROUP BY e.id;
UPDATE idempotency SET answer = '{"movementId": 1}' WHERE person_id = 1 AND route = 'pgbench' AND key = :k;
COMMIT;
