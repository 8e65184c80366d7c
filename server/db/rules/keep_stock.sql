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
      coalesce(sum(m.quantity) FILTER (WHERE p.kind = 'bench'), 0) AS bench
    FROM (SELECT item_id, lot_id, to_place_id AS place_id, quantity FROM added
          UNION ALL SELECT item_id, lot_id, from_place_id, -quantity FROM added) m
    JOIN place p ON p.id = m.place_id LEFT JOIN lot ON lot.id = m.lot_id
    WHERE p.kind IN ('bin', 'bench')
    GROUP BY 1, 2
  ), moved AS (
    UPDATE item_site s SET on_hand = s.on_hand + net.on_hand, bench = s.bench + net.bench FROM net
    WHERE s.item_id = net.item_id AND s.site_id = net.site_id RETURNING s.item_id, s.site_id
  )
  INSERT INTO item_site (item_id, site_id, on_hand, bench)
  SELECT item_id, site_id, on_hand, bench FROM net WHERE NOT EXISTS (SELECT 1 FROM moved WHERE moved.item_id = net.item_id AND moved.site_id = net.site_id);

  UPDATE pool SET quantity = pool.quantity + net.quantity, value = pool.value + net.value, on_hand = pool.on_hand + net.on_hand, last_seq = net.last_seq,
    last_quantity = CASE WHEN pool.quantity + net.quantity > 0 THEN pool.quantity + net.quantity WHEN pool.quantity > 0 THEN pool.quantity ELSE pool.last_quantity END,
    last_value = CASE WHEN pool.quantity + net.quantity > 0 THEN pool.value + net.value WHEN pool.quantity > 0 THEN pool.value ELSE pool.last_value END
  FROM (
    SELECT l.item_id, max(l.seq) AS last_seq, sum(l.value) AS value,
      sum(l.quantity * (t.owned::int - f.owned::int)) AS quantity,
      sum(l.quantity * ((t.kind = 'bin' AND t.sellable AND NOT coalesce(lot.past_use, false))::int - (f.kind = 'bin' AND f.sellable AND NOT coalesce(lot.past_use, false))::int)) AS on_hand
    FROM added l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id LEFT JOIN lot ON lot.id = l.lot_id
    GROUP BY 1
  ) net WHERE pool.item_id = net.item_id;

  UPDATE lot SET place_id = l.to_place_id FROM added l WHERE lot.id = l.lot_id AND lot.kind = 'serial';

  IF EXISTS (SELECT 1 FROM added WHERE purchase_line_id IS NOT NULL) THEN
    UPDATE purchase_line d SET received = d.received + net.quantity, received_value = d.received_value + net.value
    FROM (
      SELECT l.purchase_line_id AS id, sum(l.quantity * ((f.kind = 'supplier')::int - (t.kind = 'supplier')::int)) AS quantity, sum(l.value + l.variance) AS value
      FROM added l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
      WHERE l.purchase_line_id IS NOT NULL GROUP BY 1
    ) net WHERE d.id = net.id;
  END IF;

  IF EXISTS (SELECT 1 FROM added WHERE sales_line_id IS NOT NULL) THEN
    UPDATE sales_line d SET picked = d.picked + net.picked, dispatched = d.dispatched + net.dispatched, dispatched_cost = d.dispatched_cost - net.value
    FROM (
      SELECT l.sales_line_id AS id,
        sum(l.quantity * ((f.kind = 'bin' AND t.kind = 'bench' OR f.kind = 'nowhere')::int - (f.kind = 'bench' AND t.kind = 'bin' OR t.kind = 'nowhere')::int)) AS picked,
        sum(l.quantity * ((f.kind IN ('bench', 'nowhere') AND t.kind = 'customer')::int - (f.kind = 'customer' AND t.kind IN ('bench', 'nowhere'))::int)) AS dispatched,
        sum(l.value + l.variance) AS value
      FROM added l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
      WHERE l.sales_line_id IS NOT NULL GROUP BY 1
    ) net WHERE d.id = net.id;
  END IF;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER movement_line_keeps_stock AFTER INSERT ON movement_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_stock();
