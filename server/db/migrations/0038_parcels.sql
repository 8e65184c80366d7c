CREATE TABLE "carrier" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "carrier_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"party_id" integer NOT NULL,
	"connected" boolean DEFAULT false NOT NULL,
	"retired_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "carrier_bill" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "carrier_bill_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"carrier_id" integer NOT NULL,
	"reference" text NOT NULL,
	"billed_on" date NOT NULL,
	"due_on" date,
	"lines" jsonb NOT NULL,
	"came_at" timestamp with time zone NOT NULL,
	CONSTRAINT "carrier_bill_once" UNIQUE("carrier_id","reference")
);
--> statement-breakpoint
CREATE TABLE "parcel" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "parcel_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"order_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"shipment_id" integer,
	"weight" numeric(18, 4),
	"length" integer,
	"width" integer,
	"height" integer,
	"tracking" text DEFAULT '' NOT NULL,
	"expected" numeric(18, 2) DEFAULT '0' NOT NULL,
	"whereabouts" text DEFAULT '' NOT NULL,
	"told_at" timestamp with time zone,
	"delivered_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "parcel_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "parcel_content" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "parcel_content_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"parcel_id" integer NOT NULL,
	"line_id" integer NOT NULL,
	"lot_id" integer,
	"quantity" numeric(18, 4) NOT NULL,
	CONSTRAINT "parcel_content_once" UNIQUE NULLS NOT DISTINCT("parcel_id","line_id","lot_id"),
	CONSTRAINT "parcel_content_positive" CHECK ("parcel_content"."quantity" > 0)
);
--> statement-breakpoint
CREATE TABLE "shipment" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "shipment_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"order_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"way" text NOT NULL,
	"carrier_id" integer,
	"service" text DEFAULT '' NOT NULL,
	"address" text DEFAULT '' NOT NULL,
	"charged" numeric(18, 2) DEFAULT '0' NOT NULL,
	"booked_at" timestamp with time zone,
	"fault" text DEFAULT '' NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"next_try_at" timestamp with time zone,
	"cancelled_at" timestamp with time zone,
	"movement_id" integer,
	"taken_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "shipment_number_unique" UNIQUE("number"),
	CONSTRAINT "shipment_way" CHECK ("shipment"."way" in ('carrier', 'van', 'collected') and ("shipment"."way" = 'carrier') = ("shipment"."carrier_id" is not null))
);
--> statement-breakpoint
CREATE TABLE "standin_parcel" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "standin_parcel_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"carrier" text NOT NULL,
	"reference" text NOT NULL,
	"position" integer NOT NULL,
	"tracking" text NOT NULL,
	"zone" integer NOT NULL,
	"service" text NOT NULL,
	"weight" numeric(18, 4) NOT NULL,
	"price" numeric(18, 2) NOT NULL,
	"booked_at" timestamp with time zone NOT NULL,
	"ready_at" timestamp with time zone,
	"cancelled_at" timestamp with time zone,
	CONSTRAINT "standin_parcel_tracking_unique" UNIQUE("tracking"),
	CONSTRAINT "standin_parcel_once" UNIQUE("reference","position")
);
--> statement-breakpoint
ALTER TABLE "bill_line" DROP CONSTRAINT "bill_line_kind";--> statement-breakpoint
ALTER TABLE "journal_entry" ADD COLUMN "shipment_id" integer;--> statement-breakpoint
ALTER TABLE "bill_line" ADD COLUMN "parcel_id" integer;--> statement-breakpoint
ALTER TABLE "carrier" ADD CONSTRAINT "carrier_party_id_party_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "carrier_bill" ADD CONSTRAINT "carrier_bill_carrier_id_carrier_id_fk" FOREIGN KEY ("carrier_id") REFERENCES "public"."carrier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parcel" ADD CONSTRAINT "parcel_order_id_sales_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."sales_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parcel" ADD CONSTRAINT "parcel_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parcel" ADD CONSTRAINT "parcel_shipment_id_shipment_id_fk" FOREIGN KEY ("shipment_id") REFERENCES "public"."shipment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parcel" ADD CONSTRAINT "parcel_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parcel_content" ADD CONSTRAINT "parcel_content_parcel_id_parcel_id_fk" FOREIGN KEY ("parcel_id") REFERENCES "public"."parcel"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parcel_content" ADD CONSTRAINT "parcel_content_line_id_document_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."document_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "parcel_content" ADD CONSTRAINT "parcel_content_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipment" ADD CONSTRAINT "shipment_order_id_sales_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."sales_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipment" ADD CONSTRAINT "shipment_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipment" ADD CONSTRAINT "shipment_carrier_id_carrier_id_fk" FOREIGN KEY ("carrier_id") REFERENCES "public"."carrier"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipment" ADD CONSTRAINT "shipment_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shipment" ADD CONSTRAINT "shipment_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "carrier_name" ON "carrier" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "parcel_order" ON "parcel" USING btree ("order_id");--> statement-breakpoint
CREATE INDEX "parcel_shipment" ON "parcel" USING btree ("shipment_id");--> statement-breakpoint
CREATE INDEX "parcel_tracking" ON "parcel" USING btree ("tracking");--> statement-breakpoint
CREATE INDEX "parcel_content_line" ON "parcel_content" USING btree ("line_id");--> statement-breakpoint
CREATE INDEX "shipment_order" ON "shipment" USING btree ("order_id");--> statement-breakpoint
CREATE INDEX "shipment_movement" ON "shipment" USING btree ("movement_id");--> statement-breakpoint
ALTER TABLE "journal_entry" ADD CONSTRAINT "journal_entry_shipment_id_shipment_id_fk" FOREIGN KEY ("shipment_id") REFERENCES "public"."shipment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_line" ADD CONSTRAINT "bill_line_parcel_id_parcel_id_fk" FOREIGN KEY ("parcel_id") REFERENCES "public"."parcel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "journal_entry_shipment" ON "journal_entry" USING btree ("shipment_id");--> statement-breakpoint
CREATE INDEX "bill_line_parcel" ON "bill_line" USING btree ("parcel_id");--> statement-breakpoint
ALTER TABLE "bill_line" ADD CONSTRAINT "bill_line_kind" CHECK ("bill_line"."kind" in ('goods', 'charge', 'parcel', 'other'));--> statement-breakpoint
-- What carriers are to bill for parcels gets accounts of its own, and parcels and shipments get numbers.
INSERT INTO account (code, name, type, purpose)
SELECT CASE WHEN EXISTS (SELECT 1 FROM account WHERE code = a.code) THEN a.code || '-P' ELSE a.code END, a.name, a.type, a.purpose
FROM (VALUES ('2140', 'Parcels sent, not billed', 'liability', 'carriage-clearing'), ('5310', 'Parcels billed otherwise', 'expense', 'carriage-variance')) a (code, name, type, purpose)
WHERE EXISTS (SELECT 1 FROM account WHERE purpose = 'grni');
--> statement-breakpoint
INSERT INTO counter (kind, prefix, next)
SELECT c.kind, c.prefix, 1001 FROM (VALUES ('parcel', 'PC-'), ('shipment', 'SH-')) c (kind, prefix)
WHERE EXISTS (SELECT 1 FROM counter WHERE kind = 'sales order');
