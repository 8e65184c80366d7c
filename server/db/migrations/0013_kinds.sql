ALTER TABLE "item" ADD COLUMN "inventory_account_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "cost_account_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_inventory_account_id_account_id_fk" FOREIGN KEY ("inventory_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_cost_account_id_account_id_fk" FOREIGN KEY ("cost_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_supplier" ADD COLUMN "lead_days" integer;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "kept" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "sales_line" ADD COLUMN "kept" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase_line" drop column "incoming";--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "incoming" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept and not direct then greatest(base_quantity - cancelled - received, 0) else 0 end) STORED;--> statement-breakpoint
ALTER TABLE "sales_line" drop column "wanted";--> statement-breakpoint
ALTER TABLE "sales_line" ADD COLUMN "wanted" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept then base_quantity - picked else 0 end) STORED;--> statement-breakpoint
ALTER TABLE "sales_line" drop column "short";--> statement-breakpoint
ALTER TABLE "sales_line" ADD COLUMN "short" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept then base_quantity - picked - reserved else 0 end) STORED;--> statement-breakpoint
CREATE INDEX "purchase_line_open" ON "purchase_line" USING btree ("item_id","site_id") WHERE incoming > 0;--> statement-breakpoint
CREATE INDEX "purchase_line_unkept" ON "purchase_line" USING btree ("order_id") WHERE not kept;--> statement-breakpoint
CREATE INDEX "sales_line_wanted" ON "sales_line" USING btree ("item_id","site_id") WHERE wanted > 0;--> statement-breakpoint
-- What is not kept in stock comes to be used up at once, and goes out from nowhere.
INSERT INTO place (kind, code, owned) SELECT x.kind, x.code, false FROM (VALUES ('used-up', 'Used at once'), ('nowhere', 'Not from stock')) x(kind, code) WHERE EXISTS (SELECT 1 FROM company);--> statement-breakpoint
-- What goes out from nowhere counts as picked as it goes. Else as before.
CREATE OR REPLACE FUNCTION keep_stock() RETURNS trigger LANGUAGE plpgsql AS $$
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
        sum(l.quantity * ((f.kind = 'bin' AND t.kind = 'bench' OR f.kind = 'nowhere')::int - (f.kind = 'bench' AND t.kind = 'bin' OR t.kind = 'nowhere')::int)) AS picked,
        sum(l.quantity * ((f.kind IN ('bench', 'nowhere') AND t.kind = 'customer')::int - (f.kind = 'customer' AND t.kind IN ('bench', 'nowhere'))::int)) AS dispatched,
        sum(l.value + l.variance) AS value
      FROM added l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
      WHERE l.sales_line_id IS NOT NULL GROUP BY 1
    ) net WHERE d.id = net.id;
  END IF;
  RETURN NULL;
END $$;
--> statement-breakpoint
-- A lot that passes its use-by day is no longer on hand, and is again when the day was wrong.
CREATE FUNCTION keep_past_use() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE item_site s SET on_hand = s.on_hand + net.quantity FROM (
    SELECT p.site_id, sum(b.quantity) * CASE WHEN NEW.past_use THEN -1 ELSE 1 END AS quantity FROM balance b JOIN place p ON p.id = b.place_id
    WHERE b.item_id = NEW.item_id AND b.lot_id = NEW.id AND p.kind = 'bin' AND p.sellable GROUP BY 1) net
  WHERE s.item_id = NEW.item_id AND s.site_id = net.site_id;
  UPDATE pool SET on_hand = pool.on_hand + net.quantity FROM (
    SELECT coalesce(sum(b.quantity), 0) * CASE WHEN NEW.past_use THEN -1 ELSE 1 END AS quantity FROM balance b JOIN place p ON p.id = b.place_id
    WHERE b.item_id = NEW.item_id AND b.lot_id = NEW.id AND p.kind = 'bin' AND p.sellable) net
  WHERE pool.item_id = NEW.item_id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER lot_past_use AFTER UPDATE OF past_use ON lot FOR EACH ROW WHEN (OLD.past_use IS DISTINCT FROM NEW.past_use) EXECUTE FUNCTION keep_past_use();
--> statement-breakpoint
CREATE INDEX "lot_use_by" ON "lot" USING btree ("use_by") WHERE use_by is not null;
