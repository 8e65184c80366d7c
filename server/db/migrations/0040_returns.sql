CREATE TABLE "came_back" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "came_back_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"line_id" bigint NOT NULL,
	"of_line_id" bigint NOT NULL,
	"return_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"value" numeric(18, 2) NOT NULL,
	"loss_account_id" integer
);
--> statement-breakpoint
CREATE TABLE "customer_return" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "customer_return_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"customer_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"came_on" date NOT NULL,
	"reference" text DEFAULT '' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"movement_id" integer,
	"discarded_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "customer_return_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "customer_return_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "customer_return_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"return_id" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer NOT NULL,
	"sales_line_id" integer,
	"lot_id" integer,
	"lot_code" text DEFAULT '' NOT NULL,
	"unit_value" numeric(18, 6),
	"quantity" numeric(18, 4) NOT NULL,
	"condition" text NOT NULL,
	"bin_id" integer,
	"reason_id" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "customer_return_line_position" UNIQUE("return_id","position"),
	CONSTRAINT "customer_return_line_positive" CHECK ("customer_return_line"."quantity" > 0),
	CONSTRAINT "customer_return_line_condition" CHECK ("customer_return_line"."condition" in ('shelf', 'quarantine', 'scrap') and ("customer_return_line"."condition" = 'scrap') = ("customer_return_line"."bin_id" is null))
);
--> statement-breakpoint
ALTER TABLE "came_back" ADD CONSTRAINT "came_back_line_id_movement_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "came_back" ADD CONSTRAINT "came_back_of_line_id_movement_line_id_fk" FOREIGN KEY ("of_line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "came_back" ADD CONSTRAINT "came_back_return_id_customer_return_id_fk" FOREIGN KEY ("return_id") REFERENCES "public"."customer_return"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "came_back" ADD CONSTRAINT "came_back_loss_account_id_account_id_fk" FOREIGN KEY ("loss_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return" ADD CONSTRAINT "customer_return_customer_id_party_id_fk" FOREIGN KEY ("customer_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return" ADD CONSTRAINT "customer_return_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return" ADD CONSTRAINT "customer_return_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return" ADD CONSTRAINT "customer_return_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return_line" ADD CONSTRAINT "customer_return_line_return_id_customer_return_id_fk" FOREIGN KEY ("return_id") REFERENCES "public"."customer_return"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return_line" ADD CONSTRAINT "customer_return_line_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return_line" ADD CONSTRAINT "customer_return_line_sales_line_id_sales_terms_id_fk" FOREIGN KEY ("sales_line_id") REFERENCES "public"."sales_terms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return_line" ADD CONSTRAINT "customer_return_line_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return_line" ADD CONSTRAINT "customer_return_line_bin_id_place_id_fk" FOREIGN KEY ("bin_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_return_line" ADD CONSTRAINT "customer_return_line_reason_id_reason_id_fk" FOREIGN KEY ("reason_id") REFERENCES "public"."reason"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "came_back_line" ON "came_back" USING btree ("line_id");--> statement-breakpoint
CREATE INDEX "came_back_of" ON "came_back" USING btree ("of_line_id");--> statement-breakpoint
CREATE INDEX "came_back_return" ON "came_back" USING btree ("return_id");--> statement-breakpoint
CREATE INDEX "customer_return_customer" ON "customer_return" USING btree ("customer_id");--> statement-breakpoint
CREATE INDEX "customer_return_movement" ON "customer_return" USING btree ("movement_id");--> statement-breakpoint
CREATE INDEX "customer_return_line_item" ON "customer_return_line" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "customer_return_line_sales" ON "customer_return_line" USING btree ("sales_line_id");--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_returned" CHECK ("document_line"."kind" <> 'sales' or ("document_line"."returned" >= 0 and "document_line"."returned" <= "document_line"."finished"));--> statement-breakpoint
-- Businesses that are there already get numbers for returns, reasons why goods come back, and the place of what was sold before; whoever sells or ships may take goods back.
INSERT INTO counter (kind, prefix, next)
SELECT 'customer return', 'RET-', 1001
WHERE EXISTS (SELECT 1 FROM counter WHERE kind = 'sales order');
--> statement-breakpoint
INSERT INTO reason (code, name, place, account_id)
SELECT r.code, r.name, 'customer', coalesce((SELECT id FROM account WHERE code = '5110' AND type = 'expense'), (SELECT id FROM account WHERE purpose = 'stock-differences'))
FROM (VALUES ('not-wanted', 'Not wanted any more'), ('wrong-item', 'We sent the wrong thing'), ('faulty', 'Faulty'), ('damaged-on-way', 'Damaged on the way')) r (code, name)
WHERE EXISTS (SELECT 1 FROM account WHERE purpose = 'stock-differences') AND NOT EXISTS (SELECT 1 FROM reason x WHERE x.code = r.code);
--> statement-breakpoint
INSERT INTO place (kind, code, owned)
SELECT 'before-records', 'Sold before these records', false
WHERE EXISTS (SELECT 1 FROM place WHERE kind = 'opening') AND NOT EXISTS (SELECT 1 FROM place WHERE kind = 'before-records');
--> statement-breakpoint
UPDATE role SET rights = array_append(rights, 'outbound.return') WHERE 'outbound.sell' = ANY (rights) OR 'outbound.ship' = ANY (rights);
--> statement-breakpoint
UPDATE role SET rights = array_append(rights, 'outbound.return-older') WHERE 'outbound.hold' = ANY (rights);
