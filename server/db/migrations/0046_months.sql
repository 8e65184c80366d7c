CREATE TABLE "kept_month" (
	"month" date PRIMARY KEY NOT NULL
);
--> statement-breakpoint
CREATE TABLE "month_balance" (
	"month" date NOT NULL,
	"item_id" integer NOT NULL,
	"place_id" integer NOT NULL,
	"lot_id" integer,
	"quantity" numeric(18, 4) NOT NULL,
	CONSTRAINT "month_balance_key" UNIQUE NULLS NOT DISTINCT("item_id","month","place_id","lot_id")
);
--> statement-breakpoint
CREATE TABLE "month_pool" (
	"month" date NOT NULL,
	"item_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"value" numeric(18, 2) NOT NULL,
	CONSTRAINT "month_pool_key" UNIQUE("item_id","month")
);
--> statement-breakpoint
ALTER TABLE "pool" ADD COLUMN "on_loan" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "pool" ADD COLUMN "quarantine" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "pool" ADD COLUMN "counted_on" date;--> statement-breakpoint
ALTER TABLE "item_site" ADD COLUMN "counted_on" date;--> statement-breakpoint
ALTER TABLE "kept_view" ADD COLUMN "layout" jsonb;--> statement-breakpoint
ALTER TABLE "month_balance" ADD CONSTRAINT "month_balance_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "month_balance" ADD CONSTRAINT "month_balance_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "month_balance" ADD CONSTRAINT "month_balance_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "month_pool" ADD CONSTRAINT "month_pool_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "month_balance_month" ON "month_balance" USING btree ("month");--> statement-breakpoint
CREATE INDEX "month_pool_month" ON "month_pool" USING btree ("month");--> statement-breakpoint
-- What is known of all sites, and when bins were last counted.
UPDATE pool SET quarantine = s.quarantine, on_loan = s.on_loan FROM (SELECT item_id, sum(quarantine) AS quarantine, sum(on_loan) AS on_loan FROM item_site GROUP BY 1) s
WHERE s.item_id = pool.item_id AND (s.quarantine <> 0 OR s.on_loan <> 0);--> statement-breakpoint
UPDATE item_site s SET counted_on = c.counted_on FROM (SELECT b.item_id, p.site_id, max(b.counted_on) AS counted_on FROM bin_count b JOIN place p ON p.id = b.place_id GROUP BY 1, 2) c
WHERE c.item_id = s.item_id AND c.site_id = s.site_id;--> statement-breakpoint
UPDATE pool SET counted_on = c.counted_on FROM (SELECT item_id, max(counted_on) AS counted_on FROM bin_count GROUP BY 1) c WHERE c.item_id = pool.item_id;--> statement-breakpoint
-- Whoever handles goods on the floor may move them between bins.
UPDATE role SET rights = array_append(rights, 'stock.move') WHERE ARRAY['inbound.receive', 'outbound.ship', 'stock.correct'] && rights AND NOT 'stock.move' = ANY (rights);
