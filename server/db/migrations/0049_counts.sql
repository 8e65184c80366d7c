CREATE TABLE "count_bin" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "count_bin_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"sheet_id" integer NOT NULL,
	"place_id" integer NOT NULL,
	"held_by" integer,
	"held_at" timestamp with time zone,
	"done_at" timestamp with time zone,
	"done_by" integer,
	CONSTRAINT "count_bin_key" UNIQUE("sheet_id","place_id")
);
--> statement-breakpoint
CREATE TABLE "count_entry" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "count_entry_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"line_id" integer NOT NULL,
	"counted" numeric(18, 4) NOT NULL,
	"expected" numeric(18, 4) NOT NULL,
	"seq" bigint NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"person_id" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "count_item" (
	"sheet_id" integer NOT NULL,
	"item_id" integer NOT NULL,
	CONSTRAINT "count_item_sheet_id_item_id_pk" PRIMARY KEY("sheet_id","item_id")
);
--> statement-breakpoint
CREATE TABLE "count_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "count_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"bin_id" integer NOT NULL,
	"item_id" integer NOT NULL,
	"lot_id" integer,
	"counted" numeric(18, 4) NOT NULL,
	"expected" numeric(18, 4) NOT NULL,
	"seq" bigint NOT NULL,
	"scanned_since" bigint,
	"counted_at" timestamp with time zone NOT NULL,
	"counted_by" integer NOT NULL,
	"rounds" integer DEFAULT 1 NOT NULL,
	"recount" text,
	"reason_id" integer,
	"settled_at" timestamp with time zone,
	"settled_by" integer,
	"posted" numeric(18, 4) DEFAULT '0' NOT NULL,
	"movement_id" integer,
	CONSTRAINT "count_line_key" UNIQUE NULLS NOT DISTINCT("bin_id","item_id","lot_id"),
	CONSTRAINT "count_line_counted" CHECK ("count_line"."counted" >= 0),
	CONSTRAINT "count_line_posted" CHECK (("count_line"."posted" <> 0) = ("count_line"."movement_id" is not null) and ("count_line"."movement_id" is null or "count_line"."settled_at" is not null))
);
--> statement-breakpoint
CREATE TABLE "count_sheet" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "count_sheet_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"site_id" integer NOT NULL,
	"plan" jsonb NOT NULL,
	"restricted" boolean NOT NULL,
	"blind" boolean NOT NULL,
	"recount_share" numeric,
	"recount_value" numeric(18, 2),
	"note" text DEFAULT '' NOT NULL,
	"closed_at" timestamp with time zone,
	"closed_by" integer,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "count_sheet_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "item_class" (
	"item_id" integer PRIMARY KEY NOT NULL,
	"class" text NOT NULL,
	"used_value" numeric(18, 2) NOT NULL
);
--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "count_every_a" integer DEFAULT 30;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "count_every_b" integer DEFAULT 90;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "count_every_c" integer DEFAULT 365;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "classified_on" date;--> statement-breakpoint
ALTER TABLE "count_bin" ADD CONSTRAINT "count_bin_sheet_id_count_sheet_id_fk" FOREIGN KEY ("sheet_id") REFERENCES "public"."count_sheet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_bin" ADD CONSTRAINT "count_bin_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_bin" ADD CONSTRAINT "count_bin_held_by_person_id_fk" FOREIGN KEY ("held_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_bin" ADD CONSTRAINT "count_bin_done_by_person_id_fk" FOREIGN KEY ("done_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_entry" ADD CONSTRAINT "count_entry_line_id_count_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."count_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_entry" ADD CONSTRAINT "count_entry_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_item" ADD CONSTRAINT "count_item_sheet_id_count_sheet_id_fk" FOREIGN KEY ("sheet_id") REFERENCES "public"."count_sheet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_item" ADD CONSTRAINT "count_item_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_line" ADD CONSTRAINT "count_line_bin_id_count_bin_id_fk" FOREIGN KEY ("bin_id") REFERENCES "public"."count_bin"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_line" ADD CONSTRAINT "count_line_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_line" ADD CONSTRAINT "count_line_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_line" ADD CONSTRAINT "count_line_counted_by_person_id_fk" FOREIGN KEY ("counted_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_line" ADD CONSTRAINT "count_line_reason_id_reason_id_fk" FOREIGN KEY ("reason_id") REFERENCES "public"."reason"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_line" ADD CONSTRAINT "count_line_settled_by_person_id_fk" FOREIGN KEY ("settled_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_line" ADD CONSTRAINT "count_line_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_sheet" ADD CONSTRAINT "count_sheet_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_sheet" ADD CONSTRAINT "count_sheet_closed_by_person_id_fk" FOREIGN KEY ("closed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "count_sheet" ADD CONSTRAINT "count_sheet_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_class" ADD CONSTRAINT "item_class_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "count_bin_place" ON "count_bin" USING btree ("place_id");--> statement-breakpoint
CREATE INDEX "count_entry_line" ON "count_entry" USING btree ("line_id");--> statement-breakpoint
CREATE INDEX "count_line_item" ON "count_line" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "count_line_movement" ON "count_line" USING btree ("movement_id") WHERE movement_id is not null;--> statement-breakpoint
CREATE INDEX "count_sheet_site" ON "count_sheet" USING btree ("site_id");--> statement-breakpoint
CREATE INDEX "count_sheet_open" ON "count_sheet" USING btree ("id") WHERE closed_at is null;
--> statement-breakpoint
INSERT INTO counter (kind, prefix, next)
SELECT 'count', 'CT-', 1001
WHERE EXISTS (SELECT 1 FROM counter WHERE kind = 'transfer');--> statement-breakpoint
-- Whoever corrects stock counts it, too.
UPDATE role SET rights = array_append(rights, 'stock.count') WHERE 'stock.correct' = ANY (rights) AND NOT 'stock.count' = ANY (rights);
