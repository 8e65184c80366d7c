CREATE TABLE "transfer" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "transfer_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"from_site_id" integer NOT NULL,
	"to_site_id" integer NOT NULL,
	"send_by" date NOT NULL,
	"expected_on" date,
	"carrier_id" integer,
	"tracking" text DEFAULT '' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"cancelled_at" timestamp with time zone,
	"cancelled_by" integer,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "transfer_number_unique" UNIQUE("number"),
	CONSTRAINT "transfer_sites" CHECK ("transfer"."from_site_id" <> "transfer"."to_site_id")
);
--> statement-breakpoint
CREATE TABLE "transfer_terms" (
	"id" integer PRIMARY KEY NOT NULL,
	"transfer_id" integer NOT NULL,
	"from_bin_id" integer,
	"to_bin_id" integer,
	"sales_line_id" integer
);
--> statement-breakpoint
ALTER TABLE "document_line" drop column "incoming";--> statement-breakpoint
ALTER TABLE "document_line" ADD COLUMN "incoming" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept and brings_to_id is not null then greatest(base_quantity - cancelled - greatest(arrived, finished), 0) else 0 end) STORED NOT NULL;--> statement-breakpoint
-- The index went with the column.
CREATE INDEX "document_line_incoming" ON "document_line" USING btree ("item_id","brings_to_id") WHERE incoming > 0;--> statement-breakpoint
ALTER TABLE "document_kind" ADD COLUMN "goes_by" text;--> statement-breakpoint
ALTER TABLE "document_line" ADD COLUMN "gone" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "sales_terms" ADD COLUMN "bring" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "sales_terms" ADD COLUMN "bring_from_id" integer;--> statement-breakpoint
ALTER TABLE "item_site" ADD COLUMN "coming" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "transfer" ADD CONSTRAINT "transfer_from_site_id_site_id_fk" FOREIGN KEY ("from_site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer" ADD CONSTRAINT "transfer_to_site_id_site_id_fk" FOREIGN KEY ("to_site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer" ADD CONSTRAINT "transfer_carrier_id_carrier_id_fk" FOREIGN KEY ("carrier_id") REFERENCES "public"."carrier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer" ADD CONSTRAINT "transfer_cancelled_by_person_id_fk" FOREIGN KEY ("cancelled_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer" ADD CONSTRAINT "transfer_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer_terms" ADD CONSTRAINT "transfer_terms_id_document_line_id_fk" FOREIGN KEY ("id") REFERENCES "public"."document_line"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer_terms" ADD CONSTRAINT "transfer_terms_transfer_id_transfer_id_fk" FOREIGN KEY ("transfer_id") REFERENCES "public"."transfer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer_terms" ADD CONSTRAINT "transfer_terms_from_bin_id_place_id_fk" FOREIGN KEY ("from_bin_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer_terms" ADD CONSTRAINT "transfer_terms_to_bin_id_place_id_fk" FOREIGN KEY ("to_bin_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "transfer_terms" ADD CONSTRAINT "transfer_terms_sales_line_id_sales_terms_id_fk" FOREIGN KEY ("sales_line_id") REFERENCES "public"."sales_terms"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "transfer_from" ON "transfer" USING btree ("from_site_id");--> statement-breakpoint
CREATE INDEX "transfer_to" ON "transfer" USING btree ("to_site_id");--> statement-breakpoint
CREATE INDEX "transfer_terms_transfer" ON "transfer_terms" USING btree ("transfer_id");--> statement-breakpoint
CREATE INDEX "transfer_terms_sales_line" ON "transfer_terms" USING btree ("sales_line_id");--> statement-breakpoint
ALTER TABLE "sales_terms" ADD CONSTRAINT "sales_terms_bring_from_id_site_id_fk" FOREIGN KEY ("bring_from_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "place_transit" ON "place" USING btree ("site_id") WHERE kind = 'transit';--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_gone" CHECK ("document_line"."kind" <> 'transfer' or ("document_line"."gone" >= "document_line"."finished" and "document_line"."gone" <= "document_line"."drawn"));--> statement-breakpoint
ALTER TABLE "sales_terms" ADD CONSTRAINT "sales_terms_bring" CHECK ("sales_terms"."bring" >= 0 and ("sales_terms"."bring" = 0 or "sales_terms"."bring_from_id" is not null));--> statement-breakpoint
-- What is in transit to each site.
INSERT INTO place (kind, site_id, code, owned) SELECT 'transit', id, 'transit', true FROM site WHERE NOT EXISTS (SELECT 1 FROM place WHERE place.kind = 'transit' AND place.site_id = site.id);--> statement-breakpoint
INSERT INTO counter (kind, prefix, next) SELECT 'transfer', 'TR-', 1001 WHERE EXISTS (SELECT 1 FROM counter WHERE kind = 'sales order');--> statement-breakpoint
-- Whoever sells or corrects stock may also have goods brought from another site.
UPDATE role SET rights = array_append(rights, 'stock.transfer') WHERE ARRAY['outbound.sell', 'stock.correct'] && rights AND NOT 'stock.transfer' = ANY (rights);
