-- Rules that the database keeps whatever the code does.

CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% only grows: rows are never updated, deleted or truncated', TG_TABLE_NAME USING ERRCODE = 'integrity_constraint_violation';
END $$;
--> statement-breakpoint
DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['movement', 'movement_line', 'cost_change', 'journal_entry', 'journal_line', 'change'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE OR DELETE ON %I FOR EACH ROW EXECUTE FUNCTION refuse_change()', name || '_only_grows', name);
    EXECUTE format('CREATE TRIGGER %I BEFORE TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name || '_never_truncated', name);
  END LOOP;
END $$;
--> statement-breakpoint

-- A movement is undone once, and an undo is not undone.
CREATE FUNCTION refuse_second_undo() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM movement WHERE id = NEW.reverses AND reverses IS NOT NULL) THEN
    RAISE EXCEPTION 'an undo cannot be undone' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE TRIGGER movement_undone_once BEFORE INSERT ON movement FOR EACH ROW WHEN (NEW.reverses IS NOT NULL) EXECUTE FUNCTION refuse_second_undo();
--> statement-breakpoint

-- Balances, figures per item and site, pools and document counters follow the lines, in the statement that writes them.
-- Decreases of balances are updates that must match: ON CONFLICT would check the proposed negative row. The item's pool is locked, so rows cannot appear in between.
CREATE FUNCTION keep_stock() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  WITH net AS MATERIALIZED (
    SELECT m.item_id, m.lot_id, m.place_id, p.owned, sum(m.quantity) AS quantity
    FROM (SELECT item_id, lot_id, to_place_id AS place_id, quantity FROM added
          UNION ALL SELECT item_id, lot_id, from_place_id, -quantity FROM added) m
    JOIN place p ON p.id = m.place_id
    GROUP BY 1, 2, 3, 4 HAVING sum(m.quantity) <> 0
  ), moved AS (
    UPDATE balance b SET quantity = b.quantity + net.quantity FROM net
    WHERE b.item_id = net.item_id AND b.place_id = net.place_id AND (b.lot_id = net.lot_id OR (b.lot_id IS NULL AND net.lot_id IS NULL))
    RETURNING b.item_id, b.place_id, b.lot_id
  )
  INSERT INTO balance (item_id, place_id, lot_id, quantity, owned)
  SELECT net.item_id, net.place_id, net.lot_id, net.quantity, net.owned FROM net
  WHERE NOT EXISTS (SELECT 1 FROM moved WHERE moved.item_id = net.item_id AND moved.place_id = net.place_id
    AND (moved.lot_id = net.lot_id OR (moved.lot_id IS NULL AND net.lot_id IS NULL)));

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
    last_unit_cost = CASE WHEN pool.quantity + net.quantity > 0 THEN (pool.value + net.value) / (pool.quantity + net.quantity)
      WHEN pool.quantity > 0 THEN pool.value / pool.quantity ELSE pool.last_unit_cost END
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
        sum(l.quantity * ((f.kind = 'bin' AND t.kind = 'bench')::int - (f.kind = 'bench' AND t.kind = 'bin')::int)) AS picked,
        sum(l.quantity * ((f.kind = 'bench' AND t.kind = 'customer')::int - (f.kind = 'customer' AND t.kind = 'bench')::int)) AS dispatched,
        sum(l.value + l.variance) AS value
      FROM added l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
      WHERE l.sales_line_id IS NOT NULL GROUP BY 1
    ) net WHERE d.id = net.id;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER movement_line_keeps_stock AFTER INSERT ON movement_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_stock();
--> statement-breakpoint

CREATE FUNCTION keep_pool_value() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE pool SET value = pool.value + net.amount, last_seq = greatest(pool.last_seq, net.last_seq)
  FROM (SELECT item_id, sum(amount) AS amount, max(seq) AS last_seq FROM added GROUP BY 1) net WHERE pool.item_id = net.item_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER cost_change_keeps_value AFTER INSERT ON cost_change REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_pool_value();
--> statement-breakpoint

-- Every entry balances: its lines are written in one statement and add up to zero.
CREATE FUNCTION refuse_unbalanced() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM added GROUP BY entry_id HAVING sum(amount) <> 0) THEN
    RAISE EXCEPTION 'a journal entry does not balance' USING ERRCODE = 'check_violation';
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER journal_line_balances AFTER INSERT ON journal_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION refuse_unbalanced();
--> statement-breakpoint

-- What is reserved, on order and short, per item and site and per item, follows the document lines.
CREATE FUNCTION add_to_figures(items integer[], sites integer[], more_reserved numeric[], more_on_order numeric[], more_short numeric[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  WITH net AS MATERIALIZED (
    SELECT item, site, coalesce(sum(r), 0) AS reserved, coalesce(sum(o), 0) AS on_order, coalesce(sum(s), 0) AS short
    FROM unnest(items, sites, more_reserved, more_on_order, more_short) x(item, site, r, o, s) GROUP BY 1, 2
  ), moved AS (
    UPDATE item_site f SET reserved = f.reserved + net.reserved, on_order = f.on_order + net.on_order, short = f.short + net.short FROM net
    WHERE f.item_id = net.item AND f.site_id = net.site RETURNING f.item_id, f.site_id
  )
  INSERT INTO item_site (item_id, site_id, reserved, on_order, short)
  SELECT item, site, reserved, on_order, short FROM net WHERE NOT EXISTS (SELECT 1 FROM moved WHERE moved.item_id = net.item AND moved.site_id = net.site);
  UPDATE pool SET reserved = pool.reserved + net.reserved, on_order = pool.on_order + net.on_order, short = pool.short + net.short
  FROM (SELECT item, coalesce(sum(r), 0) AS reserved, coalesce(sum(o), 0) AS on_order, coalesce(sum(s), 0) AS short
    FROM unnest(items, more_reserved, more_on_order, more_short) x(item, r, o, s) GROUP BY 1) net WHERE pool.item_id = net.item;
END $$;
--> statement-breakpoint
CREATE FUNCTION keep_on_order() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE items integer[]; sites integer[]; lines integer[]; changes numeric[]; none numeric[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(id), array_agg(outstanding) INTO items, sites, lines, changes FROM added WHERE outstanding <> 0;
  ELSIF TG_OP = 'DELETE' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(id), array_agg(-outstanding) INTO items, sites, lines, changes FROM removed WHERE outstanding <> 0;
  ELSE
    SELECT array_agg(item_id), array_agg(site_id), array_agg(line), array_agg(change) INTO items, sites, lines, changes FROM (
      SELECT item_id, site_id, line, sum(change) AS change FROM (
        SELECT item_id, site_id, id AS line, outstanding AS change FROM added UNION ALL SELECT item_id, site_id, id, -outstanding FROM removed) x
      GROUP BY 1, 2, 3 HAVING sum(change) <> 0) y;
  END IF;
  IF items IS NULL THEN RETURN NULL; END IF;
  PERFORM add_to_figures(items, sites, none, changes, none);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER purchase_line_keep_on_order_insert AFTER INSERT ON purchase_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_on_order();
--> statement-breakpoint
CREATE TRIGGER purchase_line_keep_on_order_update AFTER UPDATE ON purchase_line REFERENCING OLD TABLE AS removed NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_on_order();
--> statement-breakpoint
CREATE TRIGGER purchase_line_keep_on_order_delete AFTER DELETE ON purchase_line REFERENCING OLD TABLE AS removed FOR EACH STATEMENT EXECUTE FUNCTION keep_on_order();
--> statement-breakpoint
CREATE FUNCTION keep_short() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE items integer[]; sites integer[]; lines integer[]; changes numeric[]; none numeric[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(id), array_agg(short) INTO items, sites, lines, changes FROM added WHERE short <> 0;
  ELSIF TG_OP = 'DELETE' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(id), array_agg(-short) INTO items, sites, lines, changes FROM removed WHERE short <> 0;
  ELSE
    SELECT array_agg(item_id), array_agg(site_id), array_agg(line), array_agg(change) INTO items, sites, lines, changes FROM (
      SELECT item_id, site_id, line, sum(change) AS change FROM (
        SELECT item_id, site_id, id AS line, short AS change FROM added UNION ALL SELECT item_id, site_id, id, -short FROM removed) x
      GROUP BY 1, 2, 3 HAVING sum(change) <> 0) y;
  END IF;
  IF items IS NULL THEN RETURN NULL; END IF;
  PERFORM add_to_figures(items, sites, none, none, changes);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER sales_line_keep_short_insert AFTER INSERT ON sales_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_short();
--> statement-breakpoint
CREATE TRIGGER sales_line_keep_short_update AFTER UPDATE ON sales_line REFERENCING OLD TABLE AS removed NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_short();
--> statement-breakpoint
CREATE TRIGGER sales_line_keep_short_delete AFTER DELETE ON sales_line REFERENCING OLD TABLE AS removed FOR EACH STATEMENT EXECUTE FUNCTION keep_short();
--> statement-breakpoint
CREATE FUNCTION keep_reserved() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE items integer[]; sites integer[]; lines integer[]; changes numeric[]; none numeric[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(sales_line_id), array_agg(quantity) INTO items, sites, lines, changes FROM added WHERE quantity <> 0;
  ELSIF TG_OP = 'DELETE' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(sales_line_id), array_agg(-quantity) INTO items, sites, lines, changes FROM removed WHERE quantity <> 0;
  ELSE
    SELECT array_agg(item_id), array_agg(site_id), array_agg(line), array_agg(change) INTO items, sites, lines, changes FROM (
      SELECT item_id, site_id, line, sum(change) AS change FROM (
        SELECT item_id, site_id, sales_line_id AS line, quantity AS change FROM added UNION ALL SELECT item_id, site_id, sales_line_id, -quantity FROM removed) x
      GROUP BY 1, 2, 3 HAVING sum(change) <> 0) y;
  END IF;
  IF items IS NULL THEN RETURN NULL; END IF;
  UPDATE sales_line SET reserved = reserved + x.change FROM (SELECT line, sum(change) AS change FROM unnest(lines, changes) u(line, change) GROUP BY 1) x WHERE sales_line.id = x.line;
  PERFORM add_to_figures(items, sites, changes, none, none);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER reservation_keep_reserved_insert AFTER INSERT ON reservation REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_reserved();
--> statement-breakpoint
CREATE TRIGGER reservation_keep_reserved_update AFTER UPDATE ON reservation REFERENCING OLD TABLE AS removed NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_reserved();
--> statement-breakpoint
CREATE TRIGGER reservation_keep_reserved_delete AFTER DELETE ON reservation REFERENCING OLD TABLE AS removed FOR EACH STATEMENT EXECUTE FUNCTION keep_reserved();
--> statement-breakpoint

-- The lines of an order follow its decisions.
CREATE FUNCTION activate_purchase_lines() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE purchase_line SET active = NEW.placed_at IS NOT NULL AND NEW.closed_at IS NULL AND NEW.cancelled_at IS NULL, site_id = NEW.site_id WHERE order_id = NEW.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER purchase_order_decided AFTER UPDATE OF placed_at, closed_at, cancelled_at, site_id ON purchase_order FOR EACH ROW EXECUTE FUNCTION activate_purchase_lines();
--> statement-breakpoint
CREATE FUNCTION activate_sales_lines() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE sales_line SET active = NEW.confirmed_at IS NOT NULL AND NEW.closed_at IS NULL AND NEW.cancelled_at IS NULL, site_id = NEW.site_id WHERE order_id = NEW.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER sales_order_decided AFTER UPDATE OF confirmed_at, closed_at, cancelled_at, site_id ON sales_order FOR EACH ROW EXECUTE FUNCTION activate_sales_lines();
--> statement-breakpoint

-- Every item has its pool, and what finding looks through.
CREATE FUNCTION give_pool() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO pool (item_id) VALUES (NEW.id);
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER item_has_pool AFTER INSERT ON item FOR EACH ROW EXECUTE FUNCTION give_pool();
--> statement-breakpoint
CREATE INDEX movement_line_from ON movement_line (from_place_id, effective_on);
--> statement-breakpoint
CREATE INDEX movement_line_to ON movement_line (to_place_id, effective_on);
