CREATE TABLE "counter_rule" (
	"document" text NOT NULL,
	"counter" text NOT NULL,
	"measure" text NOT NULL,
	"from_kind" text NOT NULL,
	"to_kind" text NOT NULL,
	"sign" smallint NOT NULL,
	CONSTRAINT "counter_rule_key" UNIQUE("document","from_kind","to_kind","counter","measure")
);
--> statement-breakpoint
CREATE TABLE "document_kind" (
	"kind" text PRIMARY KEY NOT NULL,
	"side" text NOT NULL,
	"waits_at" text
);
--> statement-breakpoint
CREATE TABLE "document_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "document_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"kind" text NOT NULL,
	"number" text NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"brings_to_id" integer,
	"draws" boolean NOT NULL,
	"base_quantity" numeric(18, 4) NOT NULL,
	"cancelled" numeric(18, 4) DEFAULT '0' NOT NULL,
	"kept" boolean DEFAULT true NOT NULL,
	"active" boolean DEFAULT false NOT NULL,
	"needed_on" date,
	"promised_on" date,
	"arrived" numeric(18, 4) DEFAULT '0' NOT NULL,
	"drawn" numeric(18, 4) DEFAULT '0' NOT NULL,
	"finished" numeric(18, 4) DEFAULT '0' NOT NULL,
	"returned" numeric(18, 4) DEFAULT '0' NOT NULL,
	"arrived_value" numeric(18, 2) DEFAULT '0' NOT NULL,
	"finished_value" numeric(18, 2) DEFAULT '0' NOT NULL,
	"billed" numeric(18, 4) DEFAULT '0' NOT NULL,
	"billed_value" numeric(18, 2) DEFAULT '0' NOT NULL,
	"reserved" numeric(18, 4) DEFAULT '0' NOT NULL,
	"incoming" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept and brings_to_id is not null then greatest(base_quantity - cancelled - arrived, 0) else 0 end) STORED,
	"wanted" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept and draws then base_quantity - cancelled - drawn else 0 end) STORED,
	"short" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept and draws then base_quantity - cancelled - drawn - reserved else 0 end) STORED,
	CONSTRAINT "document_line_position" UNIQUE("kind","number","position"),
	CONSTRAINT "document_line_quantity" CHECK ("document_line"."base_quantity" > 0 and "document_line"."cancelled" >= 0 and "document_line"."cancelled" <= "document_line"."base_quantity"),
	CONSTRAINT "document_line_counters" CHECK ("document_line"."arrived" >= 0 and "document_line"."finished" >= 0 and "document_line"."drawn" >= "document_line"."finished" and "document_line"."drawn" <= "document_line"."base_quantity"),
	CONSTRAINT "document_line_reserved" CHECK ("document_line"."reserved" >= 0 and ("document_line"."reserved" = 0 or ("document_line"."active" and "document_line"."reserved" <= "document_line"."base_quantity" - "document_line"."cancelled" - "document_line"."drawn")))
);
--> statement-breakpoint
CREATE TABLE "purchase_terms" (
	"id" integer PRIMARY KEY NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"unit" text NOT NULL,
	"factor_numerator" integer DEFAULT 1 NOT NULL,
	"factor_denominator" integer DEFAULT 1 NOT NULL,
	"price" numeric(18, 6) NOT NULL,
	"price_per" numeric(18, 4) DEFAULT '1' NOT NULL,
	"discount" numeric(18, 4) DEFAULT '0' NOT NULL,
	"tax_code_id" integer,
	"amount" numeric NOT NULL,
	"order_id" integer NOT NULL,
	"expected_on" date,
	"currency" text NOT NULL,
	"rate" numeric(18, 8) DEFAULT '1' NOT NULL,
	CONSTRAINT "purchase_terms_positive" CHECK ("purchase_terms"."quantity" > 0 and "purchase_terms"."price" >= 0 and "purchase_terms"."price_per" > 0)
);
--> statement-breakpoint
CREATE TABLE "sales_terms" (
	"id" integer PRIMARY KEY NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"unit" text NOT NULL,
	"factor_numerator" integer DEFAULT 1 NOT NULL,
	"factor_denominator" integer DEFAULT 1 NOT NULL,
	"price" numeric(18, 6) NOT NULL,
	"price_per" numeric(18, 4) DEFAULT '1' NOT NULL,
	"discount" numeric(18, 4) DEFAULT '0' NOT NULL,
	"tax_code_id" integer,
	"amount" numeric NOT NULL,
	"order_id" integer NOT NULL,
	CONSTRAINT "sales_terms_positive" CHECK ("sales_terms"."quantity" > 0 and "sales_terms"."price" >= 0 and "sales_terms"."price_per" > 0)
);
--> statement-breakpoint
-- Lines of purchases keep their ids; those of sales follow after them.
INSERT INTO document_line (id, kind, number, position, item_id, site_id, brings_to_id, draws, base_quantity, cancelled, kept, active, arrived, returned, arrived_value, billed, billed_value) OVERRIDING SYSTEM VALUE
SELECT l.id, 'purchase', o.number, l.position, l.item_id, l.site_id, CASE WHEN NOT l.direct THEN l.site_id END, false, l.base_quantity, l.cancelled, l.kept, l.active, l.received, l.returned, l.received_value, l.billed, l.billed_value
FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id;
--> statement-breakpoint
INSERT INTO document_line (id, kind, number, position, item_id, site_id, draws, base_quantity, kept, active, needed_on, promised_on, drawn, finished, finished_value, reserved) OVERRIDING SYSTEM VALUE
SELECT l.id + (SELECT coalesce(max(id), 0) FROM purchase_line), 'sales', o.number, l.position, l.item_id, l.site_id, true, l.base_quantity, l.kept, l.active, l.ship_by, l.promised_on, l.picked, l.dispatched, l.dispatched_cost, l.reserved
FROM sales_line l JOIN sales_order o ON o.id = l.order_id;
--> statement-breakpoint
SELECT setval('document_line_id_seq', (SELECT coalesce(max(id), 0) + 1 FROM document_line), false);
--> statement-breakpoint
INSERT INTO purchase_terms (id, quantity, unit, factor_numerator, factor_denominator, price, price_per, discount, tax_code_id, amount, order_id, expected_on, currency, rate)
SELECT id, quantity, unit, factor_numerator, factor_denominator, price, price_per, discount, tax_code_id, amount, order_id, expected_on, currency, rate FROM purchase_line;
--> statement-breakpoint
INSERT INTO sales_terms (id, quantity, unit, factor_numerator, factor_denominator, price, price_per, discount, tax_code_id, amount, order_id)
SELECT id + (SELECT coalesce(max(id), 0) FROM purchase_line), quantity, unit, factor_numerator, factor_denominator, price, price_per, discount, tax_code_id, amount, order_id FROM sales_line;
--> statement-breakpoint
ALTER TABLE movement_line ADD COLUMN supply_line_id integer, ADD COLUMN demand_line_id integer;
--> statement-breakpoint
ALTER TABLE movement_line DISABLE TRIGGER USER;
--> statement-breakpoint
UPDATE movement_line SET supply_line_id = purchase_line_id, demand_line_id = sales_line_id + (SELECT coalesce(max(id), 0) FROM purchase_line) WHERE purchase_line_id IS NOT NULL OR sales_line_id IS NOT NULL;
--> statement-breakpoint
ALTER TABLE movement_line ENABLE TRIGGER USER;
--> statement-breakpoint
ALTER TABLE reservation ADD COLUMN line_id integer;
--> statement-breakpoint
ALTER TABLE reservation DISABLE TRIGGER USER;
--> statement-breakpoint
UPDATE reservation SET line_id = sales_line_id + (SELECT coalesce(max(id), 0) FROM purchase_line);
--> statement-breakpoint
ALTER TABLE reservation ENABLE TRIGGER USER;
--> statement-breakpoint
ALTER TABLE reservation ALTER COLUMN line_id SET NOT NULL;
--> statement-breakpoint
ALTER TABLE supply DROP CONSTRAINT "supply_sales_line_id_sales_line_id_fk";
--> statement-breakpoint
UPDATE supply SET sales_line_id = sales_line_id + (SELECT coalesce(max(id), 0) FROM purchase_line);
--> statement-breakpoint
DROP TABLE "purchase_line" CASCADE;--> statement-breakpoint
DROP TABLE "sales_line" CASCADE;--> statement-breakpoint
ALTER TABLE "reservation" DROP CONSTRAINT "reservation_once";--> statement-breakpoint
DROP INDEX "movement_line_purchase";--> statement-breakpoint
DROP INDEX "movement_line_sales";--> statement-breakpoint
DROP INDEX "movement_line_sent";--> statement-breakpoint
ALTER TABLE "item_site" ADD COLUMN "quarantine" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "item_site" ADD COLUMN "in_transit" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "item_site" ADD COLUMN "on_loan" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "item_site" ADD COLUMN "in_work" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_brings_to_id_site_id_fk" FOREIGN KEY ("brings_to_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_terms" ADD CONSTRAINT "purchase_terms_id_document_line_id_fk" FOREIGN KEY ("id") REFERENCES "public"."document_line"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_terms" ADD CONSTRAINT "purchase_terms_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_terms" ADD CONSTRAINT "purchase_terms_order_id_purchase_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."purchase_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_terms" ADD CONSTRAINT "sales_terms_id_document_line_id_fk" FOREIGN KEY ("id") REFERENCES "public"."document_line"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_terms" ADD CONSTRAINT "sales_terms_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_terms" ADD CONSTRAINT "sales_terms_order_id_sales_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."sales_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "document_line_incoming" ON "document_line" USING btree ("item_id","brings_to_id") WHERE incoming > 0;--> statement-breakpoint
CREATE INDEX "document_line_wanted" ON "document_line" USING btree ("item_id","site_id") WHERE wanted > 0;--> statement-breakpoint
CREATE INDEX "document_line_waiting" ON "document_line" USING btree ("item_id","site_id") WHERE drawn > finished;--> statement-breakpoint
CREATE INDEX "document_line_unkept" ON "document_line" USING btree ("id") WHERE not kept;--> statement-breakpoint
CREATE INDEX "purchase_terms_order" ON "purchase_terms" USING btree ("order_id");--> statement-breakpoint
CREATE INDEX "sales_terms_order" ON "sales_terms" USING btree ("order_id");--> statement-breakpoint
ALTER TABLE "reservation" ADD CONSTRAINT "reservation_line_id_document_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."document_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "supply" ADD CONSTRAINT "supply_sales_line_id_sales_terms_id_fk" FOREIGN KEY ("sales_line_id") REFERENCES "public"."sales_terms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_supply_line_id_document_line_id_fk" FOREIGN KEY ("supply_line_id") REFERENCES "public"."document_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_demand_line_id_document_line_id_fk" FOREIGN KEY ("demand_line_id") REFERENCES "public"."document_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_line" ADD CONSTRAINT "bill_line_purchase_line_id_purchase_terms_id_fk" FOREIGN KEY ("purchase_line_id") REFERENCES "public"."purchase_terms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "line_settlement" ADD CONSTRAINT "line_settlement_purchase_line_id_purchase_terms_id_fk" FOREIGN KEY ("purchase_line_id") REFERENCES "public"."purchase_terms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "movement_line_supply" ON "movement_line" USING btree ("supply_line_id") WHERE supply_line_id is not null;--> statement-breakpoint
CREATE INDEX "movement_line_demand" ON "movement_line" USING btree ("demand_line_id") WHERE demand_line_id is not null;--> statement-breakpoint
CREATE INDEX "movement_line_sent" ON "movement_line" USING btree ("effective_on","item_id","quantity","to_place_id","from_place_id") WHERE "movement_line"."demand_line_id" IS NOT NULL;--> statement-breakpoint
ALTER TABLE "reservation" DROP COLUMN "sales_line_id";--> statement-breakpoint
ALTER TABLE "movement_line" DROP COLUMN "purchase_line_id";--> statement-breakpoint
ALTER TABLE "movement_line" DROP COLUMN "sales_line_id";--> statement-breakpoint
ALTER TABLE "reservation" ADD CONSTRAINT "reservation_once" UNIQUE NULLS NOT DISTINCT("line_id","lot_id");--> statement-breakpoint
UPDATE item_site f SET quarantine = x.quantity FROM (
  SELECT b.item_id, p.site_id, sum(b.quantity) AS quantity FROM balance b JOIN place p ON p.id = b.place_id LEFT JOIN lot l ON l.id = b.lot_id
  WHERE p.kind = 'bin' AND NOT (p.sellable AND NOT coalesce(l.past_use, false)) GROUP BY 1, 2) x WHERE f.item_id = x.item_id AND f.site_id = x.site_id;
--> statement-breakpoint
DROP FUNCTION IF EXISTS keep_on_order() CASCADE;
--> statement-breakpoint
DROP FUNCTION IF EXISTS keep_short() CASCADE;
