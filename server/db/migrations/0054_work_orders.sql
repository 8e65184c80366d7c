CREATE TABLE "component_terms" (
	"id" integer PRIMARY KEY NOT NULL,
	"work_order_id" integer NOT NULL,
	"note" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "product_terms" (
	"id" integer PRIMARY KEY NOT NULL,
	"work_order_id" integer NOT NULL,
	"share" numeric(18, 4),
	"bin_id" integer,
	"scrapped" numeric(18, 4) DEFAULT '0' NOT NULL,
	CONSTRAINT "product_terms_scrapped" CHECK ("product_terms"."scrapped" >= 0 and "product_terms"."share" >= 0)
);
--> statement-breakpoint
CREATE TABLE "untaken" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "untaken_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"movement_id" integer NOT NULL,
	"line_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"given_up_at" timestamp with time zone,
	"given_up_by" integer,
	"given_up_reason" text DEFAULT '' NOT NULL,
	CONSTRAINT "untaken_positive" CHECK ("untaken"."quantity" > 0)
);
--> statement-breakpoint
CREATE TABLE "work_amount" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "work_amount_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"movement_id" integer NOT NULL,
	"work_order_id" integer NOT NULL,
	"kind" text NOT NULL,
	"account_id" integer,
	"name" text DEFAULT '' NOT NULL,
	"per" text,
	"quantity" numeric(18, 4),
	"rate" numeric(18, 6),
	"amount" numeric(18, 2) NOT NULL,
	CONSTRAINT "work_amount_kind" CHECK ("work_amount"."kind" in ('charge', 'variance', 'carried') and ("work_amount"."kind" = 'charge') = ("work_amount"."account_id" is not null and "work_amount"."quantity" is not null and "work_amount"."rate" is not null and "work_amount"."per" is not null))
);
--> statement-breakpoint
CREATE TABLE "work_cost" (
	"work_order_id" integer NOT NULL,
	"position" integer NOT NULL,
	"name" text NOT NULL,
	"per" text NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"rate" numeric(18, 6) NOT NULL,
	"account_id" integer NOT NULL,
	CONSTRAINT "work_cost_work_order_id_position_pk" PRIMARY KEY("work_order_id","position"),
	CONSTRAINT "work_cost_positive" CHECK ("work_cost"."quantity" >= 0 and "work_cost"."rate" >= 0)
);
--> statement-breakpoint
CREATE TABLE "work_order" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "work_order_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"bom_id" integer,
	"starts_on" date NOT NULL,
	"due_on" date NOT NULL,
	"steps" text DEFAULT '' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"sales_line_id" integer,
	"rest_of_id" integer,
	"rest_by" integer,
	"released_at" timestamp with time zone,
	"released_by" integer,
	"ended_at" timestamp with time zone,
	"ended_by" integer,
	"cancelled_at" timestamp with time zone,
	"cancelled_by" integer,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "work_order_number_unique" UNIQUE("number"),
	CONSTRAINT "work_order_days" CHECK ("work_order"."due_on" >= "work_order"."starts_on"),
	CONSTRAINT "work_order_ends" CHECK (num_nonnulls("work_order"."ended_at", "work_order"."cancelled_at") <= 1 and ("work_order"."ended_at" is null or "work_order"."released_at" is not null))
);
--> statement-breakpoint
CREATE TABLE "work_record" (
	"movement_id" integer PRIMARY KEY NOT NULL,
	"work_order_id" integer NOT NULL,
	"worker_id" integer NOT NULL,
	"scrapped" numeric(18, 4) DEFAULT '0' NOT NULL,
	"rest" numeric(18, 4) DEFAULT '0' NOT NULL,
	"ended" boolean NOT NULL,
	"untaken_reason" text DEFAULT '' NOT NULL,
	CONSTRAINT "work_record_scrapped" CHECK ("work_record"."scrapped" >= 0)
);
--> statement-breakpoint
ALTER TABLE "document_line" DROP CONSTRAINT "document_line_counters";--> statement-breakpoint
ALTER TABLE "document_line" DROP CONSTRAINT "document_line_direct";--> statement-breakpoint
ALTER TABLE "round_order" DROP CONSTRAINT "round_order_one";--> statement-breakpoint
ALTER TABLE "document_line" drop column "wanted";--> statement-breakpoint
ALTER TABLE "document_line" ADD COLUMN "wanted" numeric(18, 4) GENERATED ALWAYS AS (case when not (active and kept and draws) or (kind = 'component' and drawn > base_quantity - cancelled) then 0 else base_quantity - cancelled - direct - (drawn - sent) end) STORED NOT NULL;--> statement-breakpoint
ALTER TABLE "document_line" drop column "short";--> statement-breakpoint
ALTER TABLE "document_line" ADD COLUMN "short" numeric(18, 4) GENERATED ALWAYS AS (case when not (active and kept and draws) or (kind = 'component' and drawn > base_quantity - cancelled) then 0 else base_quantity - cancelled - direct - (drawn - sent) - reserved end) STORED NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "making_difference" integer DEFAULT 20;--> statement-breakpoint
ALTER TABLE "round_order" ADD COLUMN "work_order_id" integer;--> statement-breakpoint
ALTER TABLE "component_terms" ADD CONSTRAINT "component_terms_id_document_line_id_fk" FOREIGN KEY ("id") REFERENCES "public"."document_line"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "component_terms" ADD CONSTRAINT "component_terms_work_order_id_work_order_id_fk" FOREIGN KEY ("work_order_id") REFERENCES "public"."work_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "product_terms" ADD CONSTRAINT "product_terms_id_document_line_id_fk" FOREIGN KEY ("id") REFERENCES "public"."document_line"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "product_terms" ADD CONSTRAINT "product_terms_work_order_id_work_order_id_fk" FOREIGN KEY ("work_order_id") REFERENCES "public"."work_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "product_terms" ADD CONSTRAINT "product_terms_bin_id_place_id_fk" FOREIGN KEY ("bin_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "untaken" ADD CONSTRAINT "untaken_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "untaken" ADD CONSTRAINT "untaken_line_id_component_terms_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."component_terms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "untaken" ADD CONSTRAINT "untaken_given_up_by_person_id_fk" FOREIGN KEY ("given_up_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_amount" ADD CONSTRAINT "work_amount_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_amount" ADD CONSTRAINT "work_amount_work_order_id_work_order_id_fk" FOREIGN KEY ("work_order_id") REFERENCES "public"."work_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_amount" ADD CONSTRAINT "work_amount_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_cost" ADD CONSTRAINT "work_cost_work_order_id_work_order_id_fk" FOREIGN KEY ("work_order_id") REFERENCES "public"."work_order"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_cost" ADD CONSTRAINT "work_cost_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_bom_id_bom_id_fk" FOREIGN KEY ("bom_id") REFERENCES "public"."bom"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_sales_line_id_sales_terms_id_fk" FOREIGN KEY ("sales_line_id") REFERENCES "public"."sales_terms"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_rest_by_movement_id_fk" FOREIGN KEY ("rest_by") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_released_by_person_id_fk" FOREIGN KEY ("released_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_ended_by_person_id_fk" FOREIGN KEY ("ended_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_cancelled_by_person_id_fk" FOREIGN KEY ("cancelled_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_order" ADD CONSTRAINT "work_order_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_record" ADD CONSTRAINT "work_record_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_record" ADD CONSTRAINT "work_record_work_order_id_work_order_id_fk" FOREIGN KEY ("work_order_id") REFERENCES "public"."work_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "work_record" ADD CONSTRAINT "work_record_worker_id_person_id_fk" FOREIGN KEY ("worker_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "component_terms_order" ON "component_terms" USING btree ("work_order_id");--> statement-breakpoint
CREATE INDEX "product_terms_order" ON "product_terms" USING btree ("work_order_id");--> statement-breakpoint
CREATE INDEX "untaken_line" ON "untaken" USING btree ("line_id");--> statement-breakpoint
CREATE INDEX "untaken_movement" ON "untaken" USING btree ("movement_id");--> statement-breakpoint
CREATE INDEX "work_amount_order" ON "work_amount" USING btree ("work_order_id");--> statement-breakpoint
CREATE INDEX "work_amount_movement" ON "work_amount" USING btree ("movement_id");--> statement-breakpoint
CREATE INDEX "work_order_item" ON "work_order" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "work_order_due" ON "work_order" USING btree ("due_on");--> statement-breakpoint
CREATE INDEX "work_order_sales_line" ON "work_order" USING btree ("sales_line_id");--> statement-breakpoint
CREATE INDEX "work_order_rest" ON "work_order" USING btree ("rest_by");--> statement-breakpoint
CREATE INDEX "work_record_order" ON "work_record" USING btree ("work_order_id");--> statement-breakpoint
ALTER TABLE "round_order" ADD CONSTRAINT "round_order_work_order_id_work_order_id_fk" FOREIGN KEY ("work_order_id") REFERENCES "public"."work_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "place_in_work" ON "place" USING btree ("site_id") WHERE kind = 'in-work';--> statement-breakpoint
CREATE UNIQUE INDEX "round_work_order_once" ON "round_order" USING btree ("work_order_id") WHERE open;--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_counters" CHECK ("document_line"."arrived" >= 0 and "document_line"."finished" >= 0 and "document_line"."drawn" >= "document_line"."finished" and ("document_line"."drawn" <= "document_line"."base_quantity" or "document_line"."kind" = 'component'));--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_direct" CHECK ("document_line"."sent" >= 0 and "document_line"."sent" <= "document_line"."direct" and ("document_line"."direct" + "document_line"."drawn" - "document_line"."sent" <= "document_line"."base_quantity" or "document_line"."kind" = 'component'));--> statement-breakpoint
ALTER TABLE "round_order" ADD CONSTRAINT "round_order_one" CHECK (num_nonnulls("round_order"."order_id", "round_order"."transfer_id", "round_order"."work_order_id") = 1);
--> statement-breakpoint
CREATE INDEX "document_line_wanted" ON "document_line" USING btree ("item_id","site_id") WHERE wanted > 0;--> statement-breakpoint
-- What lies at the work of each site, and what is made.
INSERT INTO place (kind, site_id, code, owned) SELECT 'in-work', id, 'in work', true FROM site WHERE NOT EXISTS (SELECT 1 FROM place WHERE place.kind = 'in-work' AND place.site_id = site.id);--> statement-breakpoint
INSERT INTO place (kind, code, owned) SELECT 'made', 'Made', false WHERE EXISTS (SELECT 1 FROM place WHERE kind = 'opening') AND NOT EXISTS (SELECT 1 FROM place WHERE kind = 'made');--> statement-breakpoint
INSERT INTO account (code, name, type, purpose)
SELECT CASE WHEN EXISTS (SELECT 1 FROM account WHERE code = a.code) THEN a.code || '-W' ELSE a.code END, a.name, a.type, a.purpose
FROM (VALUES ('1250', 'Work in progress', 'asset', 'work-in-progress'), ('5240', 'Making variance', 'expense', 'making-variance')) a (code, name, type, purpose)
WHERE EXISTS (SELECT 1 FROM account WHERE purpose = 'grni');--> statement-breakpoint
INSERT INTO counter (kind, prefix, next) SELECT 'work order', 'WO-', 1001 WHERE EXISTS (SELECT 1 FROM counter WHERE kind = 'sales order');--> statement-breakpoint
-- Whoever writes bills plans work by them; whoever takes stock from shelves records what was made of it. What was never taken from a shelf only the owner passes over.
UPDATE role SET rights = array_append(rights, 'making.plan') WHERE 'making.write' = ANY (rights) AND NOT 'making.plan' = ANY (rights);--> statement-breakpoint
UPDATE role SET rights = array_append(rights, 'making.record') WHERE ARRAY['making.write', 'outbound.ship'] && rights AND 'stock.correct' = ANY (rights) AND NOT 'making.record' = ANY (rights);--> statement-breakpoint
UPDATE role SET rights = array_append(rights, 'making.unrecorded') WHERE name = 'Owner' AND 'setup.edit' = ANY (rights) AND NOT 'making.unrecorded' = ANY (rights);
