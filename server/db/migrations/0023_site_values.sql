ALTER TABLE "item_site" ADD COLUMN "value" numeric(18, 2) DEFAULT '0' NOT NULL;--> statement-breakpoint
CREATE INDEX "item_site_value" ON "item_site" USING btree ("site_id","value","item_id");--> statement-breakpoint
CREATE UNIQUE INDEX "place_of_nobody" ON "place" USING btree ("kind") WHERE site_id is null and party_id is null;--> statement-breakpoint
UPDATE item_site s SET value = CASE
  WHEN i.cost_method = 'specific' THEN coalesce((
    SELECT sum(c.value) FROM cost_layer c JOIN movement_line m ON m.item_id = c.item_id AND m.seq = c.seq JOIN lot l ON l.id = m.lot_id JOIN place x ON x.id = l.place_id
    WHERE c.item_id = s.item_id AND c.quantity > 0 AND x.site_id = s.site_id), 0)
  WHEN p.quantity > 0 THEN round(p.value * (s.on_hand + s.quarantine + s.bench + s.in_transit + s.on_loan + s.in_work) / p.quantity, 2)
  ELSE 0 END
FROM item i, pool p WHERE i.id = s.item_id AND p.item_id = s.item_id;
