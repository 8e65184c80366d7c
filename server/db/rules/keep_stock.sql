-- Balances, figures per item and site, pools and document counters follow the lines, in the statement that writes them.
-- Decreases of balances are updates that must match: ON CONFLICT would check the proposed negative row. The item's pool is locked, so rows cannot appear in between.
-- What has a lot and what has none are matched apart: only then is the index of the balances used, however many lots an item has.
CREATE OR REPLACE FUNCTION keep_stock() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  WITH net AS MATERIALIZED (
    SELECT m.item_id, m.lot_id, m.place_id, p.owned, sum(m.quantity) AS quantity
    FROM (SELECT item_id, lot_id, to_place_id AS place_id, quantity FROM added
          UNION ALL SELECT item_id, lot_id, from_place_id, -quantity FROM added) m
    JOIN place p ON p.id = m.place_id
    GROUP BY 1, 2, 3, 4 HAVING sum(m.quantity) <> 0
  ), moved_lots AS (
    UPDATE balance b SET quantity = b.quantity + net.quantity FROM net
    WHERE b.item_id = net.item_id AND b.place_id = net.place_id AND b.lot_id = net.lot_id RETURNING b.item_id, b.place_id, b.lot_id
  ), moved_plain AS (
    UPDATE balance b SET quantity = b.quantity + net.quantity FROM net
    WHERE net.lot_id IS NULL AND b.item_id = net.item_id AND b.place_id = net.place_id AND b.lot_id IS NULL RETURNING b.item_id, b.place_id
  )
  INSERT INTO balance (item_id, place_id, lot_id, quantity, owned)
  SELECT net.item_id, net.place_id, net.lot_id, net.quantity, net.owned FROM net
  WHERE CASE WHEN net.lot_id IS NULL THEN (net.item_id, net.place_id) NOT IN (SELECT item_id, place_id FROM moved_plain)
    ELSE (net.item_id, net.place_id, net.lot_id) NOT IN (SELECT item_id, place_id, lot_id FROM moved_lots) END;

  WITH net AS MATERIALIZED (
    SELECT m.item_id, p.site_id,
      coalesce(sum(m.quantity) FILTER (WHERE p.kind = 'bin' AND p.sellable AND NOT coalesce(lot.past_use, false)), 0) AS on_hand,
      coalesce(sum(m.quantity) FILTER (WHERE p.kind = 'bin' AND NOT (p.sellable AND NOT coalesce(lot.past_use, false))), 0) AS quarantine,
      coalesce(sum(m.quantity) FILTER (WHERE p.kind = 'bench'), 0) AS bench, coalesce(sum(m.quantity) FILTER (WHERE p.kind = 'transit'), 0) AS in_transit,
      coalesce(sum(m.quantity) FILTER (WHERE p.kind = 'holder'), 0) AS on_loan, coalesce(sum(m.quantity) FILTER (WHERE p.kind = 'in-work'), 0) AS in_work
    FROM (SELECT item_id, lot_id, to_place_id AS place_id, quantity FROM added
          UNION ALL SELECT item_id, lot_id, from_place_id, -quantity FROM added) m
    JOIN place p ON p.id = m.place_id LEFT JOIN lot ON lot.id = m.lot_id
    WHERE p.kind IN ('bin', 'bench', 'transit', 'holder', 'in-work') AND p.site_id IS NOT NULL
    GROUP BY 1, 2
  ), moved AS (
    UPDATE item_site s SET on_hand = s.on_hand + net.on_hand, quarantine = s.quarantine + net.quarantine, bench = s.bench + net.bench,
      in_transit = s.in_transit + net.in_transit, on_loan = s.on_loan + net.on_loan, in_work = s.in_work + net.in_work FROM net
    WHERE s.item_id = net.item_id AND s.site_id = net.site_id RETURNING s.item_id, s.site_id
  )
  INSERT INTO item_site (item_id, site_id, on_hand, quarantine, bench, in_transit, on_loan, in_work)
  SELECT item_id, site_id, on_hand, quarantine, bench, in_transit, on_loan, in_work FROM net WHERE NOT EXISTS (SELECT 1 FROM moved WHERE moved.item_id = net.item_id AND moved.site_id = net.site_id);

  UPDATE pool SET quantity = pool.quantity + net.quantity, value = pool.value + net.value, on_hand = pool.on_hand + net.on_hand, in_transit = pool.in_transit + net.in_transit,
    quarantine = pool.quarantine + net.quarantine, on_loan = pool.on_loan + net.on_loan, last_seq = net.last_seq,
    last_quantity = CASE WHEN pool.quantity + net.quantity > 0 THEN pool.quantity + net.quantity WHEN pool.quantity > 0 THEN pool.quantity ELSE pool.last_quantity END,
    last_value = CASE WHEN pool.quantity + net.quantity > 0 THEN pool.value + net.value WHEN pool.quantity > 0 THEN pool.value ELSE pool.last_value END
  FROM (
    SELECT l.item_id, max(l.seq) AS last_seq, sum(l.value) AS value,
      sum(l.quantity * (t.owned::int - f.owned::int)) AS quantity, sum(l.quantity * ((t.kind = 'transit')::int - (f.kind = 'transit')::int)) AS in_transit,
      sum(l.quantity * ((t.kind = 'holder' AND t.site_id IS NOT NULL)::int - (f.kind = 'holder' AND f.site_id IS NOT NULL)::int)) AS on_loan,
      sum(l.quantity * ((t.kind = 'bin' AND NOT (t.sellable AND NOT coalesce(lot.past_use, false)))::int - (f.kind = 'bin' AND NOT (f.sellable AND NOT coalesce(lot.past_use, false)))::int)) AS quarantine,
      sum(l.quantity * ((t.kind = 'bin' AND t.sellable AND NOT coalesce(lot.past_use, false))::int - (f.kind = 'bin' AND f.sellable AND NOT coalesce(lot.past_use, false))::int)) AS on_hand
    FROM added l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id LEFT JOIN lot ON lot.id = l.lot_id
    GROUP BY 1
  ) net WHERE pool.item_id = net.item_id;

  -- Of a serial that moves on within one movement the last line says where it is.
  UPDATE lot SET place_id = l.to_place_id FROM (SELECT DISTINCT ON (lot_id) lot_id, to_place_id FROM added ORDER BY lot_id, seq DESC) l
  WHERE lot.id = l.lot_id AND lot.kind = 'serial';

  -- Which move changes which counter stands in counter_rule; an undo goes the way of what it undoes, and takes off what that added.
  IF EXISTS (SELECT 1 FROM added WHERE supply_line_id IS NOT NULL OR demand_line_id IS NOT NULL) THEN
    UPDATE document_line d SET arrived = d.arrived + net.arrived, drawn = d.drawn + net.drawn, sent = d.sent + net.sent, gone = d.gone + net.gone, finished = d.finished + net.finished, returned = d.returned + net.returned,
      arrived_value = d.arrived_value + net.arrived_value, finished_value = d.finished_value + net.finished_value
    FROM (
      SELECT s.id,
        coalesce(sum(s.moved) FILTER (WHERE r.counter = 'arrived' AND r.measure = 'quantity'), 0) AS arrived,
        coalesce(sum(s.moved) FILTER (WHERE r.counter = 'drawn' AND r.measure = 'quantity'), 0) AS drawn,
        coalesce(sum(s.moved) FILTER (WHERE r.counter = 'sent' AND r.measure = 'quantity'), 0) AS sent,
        coalesce(sum(s.moved) FILTER (WHERE r.counter = 'gone' AND r.measure = 'quantity'), 0) AS gone,
        coalesce(sum(s.moved) FILTER (WHERE r.counter = 'finished' AND r.measure = 'quantity'), 0) AS finished,
        coalesce(sum(s.moved) FILTER (WHERE r.counter = 'returned' AND r.measure = 'quantity'), 0) AS returned,
        coalesce(sum(s.worth) FILTER (WHERE r.counter = 'arrived' AND r.measure = 'value'), 0) AS arrived_value,
        coalesce(sum(s.worth) FILTER (WHERE r.counter = 'finished' AND r.measure = 'value'), 0) AS finished_value
      FROM (
        SELECT x.id, d.kind, CASE WHEN m.reverses IS NULL THEN f.kind ELSE t.kind END AS from_kind, CASE WHEN m.reverses IS NULL THEN t.kind ELSE f.kind END AS to_kind,
          CASE WHEN m.reverses IS NULL THEN l.quantity ELSE -l.quantity END AS quantity, l.value + l.variance AS value
        FROM added l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
          CROSS JOIN LATERAL (VALUES (l.supply_line_id), (l.demand_line_id)) x(id) JOIN document_line d ON d.id = x.id) y
        JOIN counter_rule r ON r.document = y.kind AND r.from_kind = y.from_kind AND r.to_kind = y.to_kind
        CROSS JOIN LATERAL (SELECT y.id, r.sign * y.quantity AS moved, r.sign * y.value AS worth) s
      GROUP BY s.id
    ) net WHERE d.id = net.id;
  END IF;
  PERFORM value_sites(ARRAY(SELECT DISTINCT item_id FROM added));
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER movement_line_keeps_stock AFTER INSERT ON movement_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_stock();
