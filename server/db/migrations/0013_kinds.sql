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
CREATE INDEX "lot_use_by" ON "lot" USING btree ("use_by") WHERE use_by is not null;
