CREATE TABLE "party_address" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "party_address_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"party_id" integer NOT NULL,
	"position" integer NOT NULL,
	"label" text NOT NULL,
	"address" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "price_list" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "price_list_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"for_all" boolean DEFAULT false NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"retired_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "customer_code" (
	"customer_id" integer NOT NULL,
	"item_id" integer NOT NULL,
	"code" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "price_row" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "price_row_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"list_id" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer,
	"category_id" integer,
	"from_quantity" numeric(18, 4) DEFAULT '0' NOT NULL,
	"price" numeric(18, 6),
	"percent_off" numeric(18, 4),
	"starts_on" date,
	"ends_on" date,
	CONSTRAINT "price_row_subject" CHECK (num_nonnulls("price_row"."item_id", "price_row"."category_id") = 1),
	CONSTRAINT "price_row_price" CHECK (num_nonnulls("price_row"."price", "price_row"."percent_off") = 1 and ("price_row"."item_id" is not null or "price_row"."price" is null)),
	CONSTRAINT "price_row_days" CHECK ("price_row"."starts_on" is null or "price_row"."ends_on" is null or "price_row"."starts_on" <= "price_row"."ends_on")
);
--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "quote_days" integer DEFAULT 30 NOT NULL;--> statement-breakpoint
ALTER TABLE "party" ADD COLUMN "sales_tax_code_id" integer;--> statement-breakpoint
ALTER TABLE "party" ADD COLUMN "price_list_id" integer;--> statement-breakpoint
ALTER TABLE "sales_order" ADD COLUMN "reference" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "sales_order" ADD COLUMN "valid_until" date;--> statement-breakpoint
ALTER TABLE "sales_order" ADD COLUMN "discount" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "sales_order" ADD COLUMN "ship_to" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "party_address" ADD CONSTRAINT "party_address_party_id_party_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_code" ADD CONSTRAINT "customer_code_customer_id_party_id_fk" FOREIGN KEY ("customer_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "customer_code" ADD CONSTRAINT "customer_code_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "price_row" ADD CONSTRAINT "price_row_list_id_price_list_id_fk" FOREIGN KEY ("list_id") REFERENCES "public"."price_list"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "price_row" ADD CONSTRAINT "price_row_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "price_row" ADD CONSTRAINT "price_row_category_id_category_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."category"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "party_address_party" ON "party_address" USING btree ("party_id");--> statement-breakpoint
CREATE UNIQUE INDEX "price_list_name" ON "price_list" USING btree (lower("name"));--> statement-breakpoint
CREATE UNIQUE INDEX "price_list_for_all" ON "price_list" USING btree ("for_all") WHERE "price_list"."for_all";--> statement-breakpoint
CREATE UNIQUE INDEX "customer_code_code" ON "customer_code" USING btree ("customer_id",lower("code"));--> statement-breakpoint
CREATE INDEX "customer_code_item" ON "customer_code" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "price_row_list" ON "price_row" USING btree ("list_id");--> statement-breakpoint
CREATE INDEX "price_row_item" ON "price_row" USING btree ("item_id");--> statement-breakpoint
ALTER TABLE "party" ADD CONSTRAINT "party_sales_tax_code_id_tax_code_id_fk" FOREIGN KEY ("sales_tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "party" ADD CONSTRAINT "party_price_list_id_price_list_id_fk" FOREIGN KEY ("price_list_id") REFERENCES "public"."price_list"("id") ON DELETE no action ON UPDATE no action;