CREATE TABLE "bin_count" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "bin_count_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"item_id" integer NOT NULL,
	"lot_id" integer,
	"place_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"seq" bigint NOT NULL,
	"counted_on" date NOT NULL,
	"movement_id" integer
);
--> statement-breakpoint
CREATE TABLE "goods_returned" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "goods_returned_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"line_id" bigint NOT NULL,
	"of_line_id" bigint NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"value" numeric(18, 2) NOT NULL,
	"called_off" numeric(18, 4) DEFAULT '0' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "bill_cover" (
	"bill_line_id" integer NOT NULL,
	"line_id" bigint NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	CONSTRAINT "bill_cover_bill_line_id_line_id_pk" PRIMARY KEY("bill_line_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "landed_line" (
	"sheet_id" integer NOT NULL,
	"line_id" bigint NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"value" numeric(18, 2) NOT NULL,
	CONSTRAINT "landed_line_sheet_id_line_id_pk" PRIMARY KEY("sheet_id","line_id")
);
--> statement-breakpoint
ALTER TABLE "purchase_charge" ALTER COLUMN "amount" SET DATA TYPE numeric;--> statement-breakpoint
ALTER TABLE "purchase_line" ALTER COLUMN "amount" SET DATA TYPE numeric;--> statement-breakpoint
ALTER TABLE "sales_line" ALTER COLUMN "amount" SET DATA TYPE numeric;--> statement-breakpoint
ALTER TABLE "bill" ALTER COLUMN "net" SET DATA TYPE numeric;--> statement-breakpoint
ALTER TABLE "bill" ALTER COLUMN "tax" SET DATA TYPE numeric;--> statement-breakpoint
ALTER TABLE "bill_line" ALTER COLUMN "amount" SET DATA TYPE numeric;--> statement-breakpoint
ALTER TABLE "landed_charge" ALTER COLUMN "amount" SET DATA TYPE numeric;--> statement-breakpoint
ALTER TABLE "payment" ALTER COLUMN "amount" SET DATA TYPE numeric;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "currency" text;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "rate" numeric(18, 8) DEFAULT '1' NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "returned" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD COLUMN "ordered_on" date;--> statement-breakpoint
ALTER TABLE "cost_change" ADD COLUMN "here" numeric(18, 4);--> statement-breakpoint
ALTER TABLE "cost_change" ADD COLUMN "variance" numeric(18, 2) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "pool" ADD COLUMN "last_quantity" numeric(18, 4);--> statement-breakpoint
ALTER TABLE "pool" ADD COLUMN "last_value" numeric(18, 2);--> statement-breakpoint
ALTER TABLE "bill" ADD COLUMN "booked_on" date;--> statement-breakpoint
ALTER TABLE "landed_share" ADD COLUMN "brought" numeric(18, 4);--> statement-breakpoint
ALTER TABLE "landed_share" ADD COLUMN "here" numeric(18, 4);--> statement-breakpoint
ALTER TABLE "landed_share" ADD COLUMN "weight" numeric(38, 6);--> statement-breakpoint
ALTER TABLE "bin_count" ADD CONSTRAINT "bin_count_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bin_count" ADD CONSTRAINT "bin_count_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bin_count" ADD CONSTRAINT "bin_count_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bin_count" ADD CONSTRAINT "bin_count_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "goods_returned" ADD CONSTRAINT "goods_returned_line_id_movement_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "goods_returned" ADD CONSTRAINT "goods_returned_of_line_id_movement_line_id_fk" FOREIGN KEY ("of_line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_cover" ADD CONSTRAINT "bill_cover_bill_line_id_bill_line_id_fk" FOREIGN KEY ("bill_line_id") REFERENCES "public"."bill_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_cover" ADD CONSTRAINT "bill_cover_line_id_movement_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_line" ADD CONSTRAINT "landed_line_sheet_id_landed_sheet_id_fk" FOREIGN KEY ("sheet_id") REFERENCES "public"."landed_sheet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_line" ADD CONSTRAINT "landed_line_line_id_movement_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bin_count_place" ON "bin_count" USING btree ("item_id","place_id","seq");--> statement-breakpoint
CREATE INDEX "goods_returned_line" ON "goods_returned" USING btree ("line_id");--> statement-breakpoint
CREATE INDEX "goods_returned_of" ON "goods_returned" USING btree ("of_line_id");--> statement-breakpoint
CREATE INDEX "bill_cover_line" ON "bill_cover" USING btree ("line_id");
--> statement-breakpoint
-- What was kept as a rounded quotient is kept as what it was a quotient of. Nothing of the books changes.
UPDATE purchase_line l SET currency = o.currency, rate = o.rate FROM purchase_order o WHERE o.id = l.order_id;
--> statement-breakpoint
ALTER TABLE purchase_line ALTER COLUMN currency SET NOT NULL;
--> statement-breakpoint
UPDATE pool SET last_quantity = CASE WHEN quantity > 0 THEN quantity ELSE 10000 END, last_value = CASE WHEN quantity > 0 THEN value ELSE round(last_unit_cost * 10000, 2) END
WHERE quantity > 0 OR last_unit_cost IS NOT NULL;
--> statement-breakpoint
DO $$ BEGIN IF EXISTS (SELECT FROM pg_trigger WHERE tgname = 'cost_change_only_grows') THEN ALTER TABLE cost_change DISABLE TRIGGER cost_change_only_grows; END IF; END $$;
--> statement-breakpoint
UPDATE cost_change c SET here = round(c.share * l.quantity, 4), variance = CASE WHEN abs(round(c.whole * c.share, 2) - c.amount) > 0.01 THEN round(c.whole * c.share, 2) - c.amount ELSE 0 END
FROM movement_line l WHERE l.id = c.movement_line_id AND c.share IS NOT NULL;
--> statement-breakpoint
DO $$ BEGIN IF EXISTS (SELECT FROM pg_trigger WHERE tgname = 'cost_change_only_grows') THEN ALTER TABLE cost_change ENABLE TRIGGER cost_change_only_grows; END IF; END $$;
--> statement-breakpoint
UPDATE landed_share s SET brought = l.quantity, here = round(s.share * l.quantity, 4), weight = s.amount * round(s.share * l.quantity, 4) FROM movement_line l WHERE l.id = s.line_id;
--> statement-breakpoint
ALTER TABLE landed_share ALTER COLUMN brought SET NOT NULL;
--> statement-breakpoint
ALTER TABLE landed_share ALTER COLUMN here SET NOT NULL;
--> statement-breakpoint
ALTER TABLE landed_share ALTER COLUMN weight SET NOT NULL;
--> statement-breakpoint
INSERT INTO landed_line (sheet_id, line_id, quantity, value)
SELECT r.sheet_id, l.id, l.quantity, l.value + l.variance FROM landed_receipt r JOIN movement_line l ON l.movement_id = r.movement_id JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
WHERE f.kind = 'supplier' AND t.kind <> 'used-up';
--> statement-breakpoint
UPDATE bill SET booked_on = billed_on WHERE posted_at IS NOT NULL;
--> statement-breakpoint
-- What went back before is taken off the oldest receipts of its order line, or of its lot.
WITH received AS (
  SELECT l.id, l.purchase_line_id AS line, i.tracking <> 'none' AS tracked, l.lot_id AS lot, l.quantity, sum(l.quantity) OVER w - l.quantity AS begins, sum(l.quantity) OVER w AS ends
  FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id JOIN item i ON i.id = l.item_id
  WHERE l.purchase_line_id IS NOT NULL AND f.kind = 'supplier' AND m.reverses IS NULL AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id)
  WINDOW w AS (PARTITION BY l.purchase_line_id, l.lot_id ORDER BY l.id)
), went AS (
  SELECT l.id, l.purchase_line_id AS line, l.lot_id AS lot, l.quantity, abs(l.value + l.variance) AS value, sum(l.quantity) OVER w - l.quantity AS begins, sum(l.quantity) OVER w AS ends
  FROM movement_line l JOIN movement m ON m.id = l.movement_id
  WHERE m.kind = 'supplier-return' AND l.purchase_line_id IS NOT NULL AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id)
  WINDOW w AS (PARTITION BY l.purchase_line_id, l.lot_id ORDER BY l.id)
)
INSERT INTO goods_returned (line_id, of_line_id, quantity, value)
SELECT w.id, r.id, least(w.ends, r.ends) - greatest(w.begins, r.begins),
  round(w.value * (least(w.ends, r.ends) - w.begins) / w.quantity, 2) - round(w.value * (greatest(w.begins, r.begins) - w.begins) / w.quantity, 2)
FROM went w JOIN received r ON r.line = w.line AND r.lot IS NOT DISTINCT FROM w.lot AND r.begins < w.ends AND w.begins < r.ends;
--> statement-breakpoint
UPDATE purchase_line d SET returned = x.quantity FROM (SELECT l.purchase_line_id AS id, sum(g.quantity) AS quantity FROM goods_returned g JOIN movement_line l ON l.id = g.line_id GROUP BY 1) x WHERE x.id = d.id;
--> statement-breakpoint
-- Standing bills cover the receipts of their order lines in turn.
WITH received AS (
  SELECT x.id, x.line, sum(x.net) OVER w - x.net AS begins, sum(x.net) OVER w AS ends FROM (
    SELECT l.id, l.purchase_line_id AS line, l.quantity - coalesce((SELECT sum(quantity) FROM goods_returned WHERE of_line_id = l.id), 0) AS net
    FROM movement_line l JOIN movement m ON m.id = l.movement_id JOIN place f ON f.id = l.from_place_id
    WHERE l.purchase_line_id IS NOT NULL AND f.kind = 'supplier' AND m.reverses IS NULL AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id)) x
  WINDOW w AS (PARTITION BY x.line ORDER BY x.id)
), billed AS (
  SELECT b.id, b.purchase_line_id AS line, sum(b.quantity) OVER w - b.quantity AS begins, sum(b.quantity) OVER w AS ends
  FROM bill_line b JOIN bill h ON h.id = b.bill_id WHERE b.kind = 'goods' AND b.quantity IS NOT NULL AND h.kind = 'bill' AND h.posted_at IS NOT NULL AND h.undone_at IS NULL
  WINDOW w AS (PARTITION BY b.purchase_line_id ORDER BY b.id)
)
INSERT INTO bill_cover (bill_line_id, line_id, quantity)
SELECT b.id, r.id, least(b.ends, r.ends) - greatest(b.begins, r.begins) FROM billed b JOIN received r ON r.line = b.line AND r.begins < b.ends AND b.begins < r.ends;
--> statement-breakpoint
INSERT INTO bill_cover (bill_line_id, line_id, quantity)
SELECT DISTINCT b.id, c.movement_line_id, 0 FROM bill_line b JOIN bill h ON h.id = b.bill_id JOIN cost_change c ON c.bill_line_id = b.id
WHERE b.kind = 'goods' AND b.quantity IS NULL AND h.posted_at IS NOT NULL AND h.undone_at IS NULL AND c.movement_line_id IS NOT NULL ON CONFLICT DO NOTHING;
