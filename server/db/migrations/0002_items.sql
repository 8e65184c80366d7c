CREATE TABLE "attribute" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "attribute_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"subject" text NOT NULL,
	"kind" text NOT NULL,
	"choices" text[] DEFAULT '{}' NOT NULL,
	"reminder_days" integer,
	"reminder_roles" integer[] DEFAULT '{}' NOT NULL,
	"reminder_people" integer[] DEFAULT '{}' NOT NULL,
	"position" integer DEFAULT 1 NOT NULL,
	"retired_at" timestamp with time zone,
	CONSTRAINT "attribute_subject" CHECK ("attribute"."subject" in ('item', 'unit')),
	CONSTRAINT "attribute_kind" CHECK ("attribute"."kind" in ('text', 'number', 'date', 'choice'))
);
--> statement-breakpoint
CREATE TABLE "attribute_value" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "attribute_value_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"attribute_id" integer NOT NULL,
	"item_id" integer,
	"lot_id" integer,
	"value" text NOT NULL,
	CONSTRAINT "attribute_value_once" UNIQUE NULLS NOT DISTINCT("attribute_id","item_id","lot_id"),
	CONSTRAINT "attribute_value_subject" CHECK (("attribute_value"."item_id" is null) <> ("attribute_value"."lot_id" is null))
);
--> statement-breakpoint
CREATE TABLE "family" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "family_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"code" text NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"sku_pattern" text NOT NULL,
	"category_id" integer,
	"unit_id" integer NOT NULL,
	"brand" text DEFAULT '' NOT NULL,
	"tax_code_id" integer,
	"returnable" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"retired_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "family_value" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "family_value_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"family_id" integer NOT NULL,
	"axis" integer NOT NULL,
	"axis_name" text NOT NULL,
	"position" integer NOT NULL,
	"name" text NOT NULL,
	"code" text NOT NULL,
	CONSTRAINT "family_value_axis" CHECK ("family_value"."axis" between 1 and 3)
);
--> statement-breakpoint
CREATE TABLE "item_substitute" (
	"item_id" integer NOT NULL,
	"substitute_id" integer NOT NULL,
	"position" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "item_substitute_item_id_substitute_id_pk" PRIMARY KEY("item_id","substitute_id"),
	CONSTRAINT "item_substitute_other" CHECK ("item_substitute"."item_id" <> "item_substitute"."substitute_id")
);
--> statement-breakpoint
CREATE TABLE "item_unit" (
	"item_id" integer NOT NULL,
	"unit_id" integer NOT NULL,
	"numerator" integer NOT NULL,
	"denominator" integer DEFAULT 1 NOT NULL,
	"buys" boolean DEFAULT false NOT NULL,
	"sells" boolean DEFAULT false NOT NULL,
	CONSTRAINT "item_unit_item_id_unit_id_pk" PRIMARY KEY("item_id","unit_id"),
	CONSTRAINT "item_unit_positive" CHECK ("item_unit"."numerator" > 0 and "item_unit"."denominator" > 0)
);
--> statement-breakpoint
CREATE TABLE "picture" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "picture_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"small" "bytea" NOT NULL,
	"large" "bytea" NOT NULL,
	"added_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "import_job" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "import_job_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"person_id" integer NOT NULL,
	"kind" text NOT NULL,
	"file_name" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"rows" jsonb NOT NULL,
	"report" jsonb NOT NULL,
	"state" text NOT NULL,
	"done" integer DEFAULT 0 NOT NULL,
	"cancel_wanted" boolean DEFAULT false NOT NULL,
	"problem" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "kept_columns" (
	"person_id" integer NOT NULL,
	"kind" text NOT NULL,
	"headings" text NOT NULL,
	"fields" jsonb NOT NULL,
	CONSTRAINT "kept_columns_person_id_kind_headings_pk" PRIMARY KEY("person_id","kind","headings")
);
--> statement-breakpoint
CREATE TABLE "kept_export" (
	"person_id" integer NOT NULL,
	"list" text NOT NULL,
	"fields" text[] NOT NULL,
	"format" text NOT NULL,
	CONSTRAINT "kept_export_person_id_list_pk" PRIMARY KEY("person_id","list")
);
--> statement-breakpoint
CREATE TABLE "kept_view" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "kept_view_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"person_id" integer NOT NULL,
	"list" text NOT NULL,
	"name" text NOT NULL,
	"search" text NOT NULL,
	"pinned" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "print_job" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "print_job_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"person_id" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"title" text NOT NULL,
	"pages" integer NOT NULL,
	"pdf" "bytea" NOT NULL
);
--> statement-breakpoint
DROP INDEX "lot_code";--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "first_steps_away" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "barcode" ADD COLUMN "unit_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "kind" text DEFAULT 'stocked' NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "maker" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "returnable" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "length_cm" numeric(10, 2);--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "width_cm" numeric(10, 2);--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "height_cm" numeric(10, 2);--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "notes" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "picture_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "family_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "value_1_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "value_2_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "value_3_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "own_facts" text[] DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "tag" text;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "condition" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "bought_on" date;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "warranty_until" date;--> statement-breakpoint
ALTER TABLE "lot" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "zone" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "attribute_value" ADD CONSTRAINT "attribute_value_attribute_id_attribute_id_fk" FOREIGN KEY ("attribute_id") REFERENCES "public"."attribute"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attribute_value" ADD CONSTRAINT "attribute_value_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "attribute_value" ADD CONSTRAINT "attribute_value_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "family" ADD CONSTRAINT "family_category_id_category_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."category"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "family" ADD CONSTRAINT "family_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "family" ADD CONSTRAINT "family_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "family_value" ADD CONSTRAINT "family_value_family_id_family_id_fk" FOREIGN KEY ("family_id") REFERENCES "public"."family"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_substitute" ADD CONSTRAINT "item_substitute_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_substitute" ADD CONSTRAINT "item_substitute_substitute_id_item_id_fk" FOREIGN KEY ("substitute_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_unit" ADD CONSTRAINT "item_unit_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_unit" ADD CONSTRAINT "item_unit_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "import_job" ADD CONSTRAINT "import_job_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_columns" ADD CONSTRAINT "kept_columns_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_export" ADD CONSTRAINT "kept_export_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "kept_view" ADD CONSTRAINT "kept_view_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "print_job" ADD CONSTRAINT "print_job_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "attribute_name" ON "attribute" USING btree ("subject",lower("name"));--> statement-breakpoint
CREATE INDEX "attribute_value_item" ON "attribute_value" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "attribute_value_lot" ON "attribute_value" USING btree ("lot_id");--> statement-breakpoint
CREATE INDEX "attribute_value_value" ON "attribute_value" USING btree ("attribute_id",lower("value"));--> statement-breakpoint
CREATE UNIQUE INDEX "family_name" ON "family" USING btree (lower("name"));--> statement-breakpoint
CREATE UNIQUE INDEX "family_value_name" ON "family_value" USING btree ("family_id","axis",lower("name"));--> statement-breakpoint
CREATE UNIQUE INDEX "kept_view_name" ON "kept_view" USING btree ("person_id","list",lower("name"));--> statement-breakpoint
CREATE INDEX "print_job_at" ON "print_job" USING btree ("at");--> statement-breakpoint
ALTER TABLE "barcode" ADD CONSTRAINT "barcode_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_picture_id_picture_id_fk" FOREIGN KEY ("picture_id") REFERENCES "public"."picture"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_family_id_family_id_fk" FOREIGN KEY ("family_id") REFERENCES "public"."family"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_value_1_id_family_value_id_fk" FOREIGN KEY ("value_1_id") REFERENCES "public"."family_value"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_value_2_id_family_value_id_fk" FOREIGN KEY ("value_2_id") REFERENCES "public"."family_value"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_value_3_id_family_value_id_fk" FOREIGN KEY ("value_3_id") REFERENCES "public"."family_value"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "barcode_lower" ON "barcode" USING btree (lower("code"));--> statement-breakpoint
CREATE INDEX "item_category" ON "item" USING btree ("category_id");--> statement-breakpoint
CREATE UNIQUE INDEX "item_member" ON "item" USING btree ("family_id",coalesce("value_1_id", 0),coalesce("value_2_id", 0),coalesce("value_3_id", 0)) WHERE family_id is not null;--> statement-breakpoint
CREATE INDEX "lot_by_code" ON "lot" USING btree (lower("code"));--> statement-breakpoint
CREATE UNIQUE INDEX "lot_tag" ON "lot" USING btree (lower("tag"));--> statement-breakpoint
CREATE UNIQUE INDEX "lot_code" ON "lot" USING btree ("item_id",lower("code"));--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_kind" CHECK ("item"."kind" in ('stocked', 'not-stocked', 'service', 'charge'));