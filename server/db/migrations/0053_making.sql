CREATE TABLE "bom" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "bom_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"item_id" integer NOT NULL,
	"number" integer NOT NULL,
	"name" text DEFAULT '' NOT NULL,
	"starts_on" date NOT NULL,
	"makes" numeric(18, 4) NOT NULL,
	"share" numeric(18, 4),
	"steps" text DEFAULT '' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"retired_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "bom_number" UNIQUE("item_id","number"),
	CONSTRAINT "bom_makes" CHECK ("bom"."makes" > 0 and "bom"."share" >= 0)
);
--> statement-breakpoint
CREATE TABLE "bom_alternative" (
	"bom_id" integer NOT NULL,
	"part" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	CONSTRAINT "bom_alternative_bom_id_part_position_pk" PRIMARY KEY("bom_id","part","position"),
	CONSTRAINT "bom_alternative_positive" CHECK ("bom_alternative"."quantity" > 0)
);
--> statement-breakpoint
CREATE TABLE "bom_by_product" (
	"bom_id" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"share" numeric(18, 4),
	CONSTRAINT "bom_by_product_bom_id_position_pk" PRIMARY KEY("bom_id","position"),
	CONSTRAINT "bom_by_product_item" UNIQUE("bom_id","item_id"),
	CONSTRAINT "bom_by_product_positive" CHECK ("bom_by_product"."quantity" > 0 and "bom_by_product"."share" >= 0)
);
--> statement-breakpoint
CREATE TABLE "bom_cost" (
	"bom_id" integer NOT NULL,
	"position" integer NOT NULL,
	"name" text NOT NULL,
	"per" text NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"rate" numeric(18, 6) NOT NULL,
	"account_id" integer NOT NULL,
	CONSTRAINT "bom_cost_bom_id_position_pk" PRIMARY KEY("bom_id","position"),
	CONSTRAINT "bom_cost_positive" CHECK ("bom_cost"."quantity" > 0 and "bom_cost"."rate" >= 0 and "bom_cost"."per" in ('hour', 'piece'))
);
--> statement-breakpoint
CREATE TABLE "bom_part" (
	"bom_id" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"unit_id" integer,
	"base_quantity" numeric(18, 4) NOT NULL,
	"waste" numeric(18, 4) DEFAULT '0' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "bom_part_bom_id_position_pk" PRIMARY KEY("bom_id","position"),
	CONSTRAINT "bom_part_item" UNIQUE("bom_id","item_id"),
	CONSTRAINT "bom_part_positive" CHECK ("bom_part"."quantity" > 0 and "bom_part"."base_quantity" > 0 and "bom_part"."waste" >= 0)
);
--> statement-breakpoint
ALTER TABLE "bom" ADD CONSTRAINT "bom_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom" ADD CONSTRAINT "bom_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_alternative" ADD CONSTRAINT "bom_alternative_bom_id_bom_id_fk" FOREIGN KEY ("bom_id") REFERENCES "public"."bom"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_alternative" ADD CONSTRAINT "bom_alternative_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_by_product" ADD CONSTRAINT "bom_by_product_bom_id_bom_id_fk" FOREIGN KEY ("bom_id") REFERENCES "public"."bom"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_by_product" ADD CONSTRAINT "bom_by_product_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_cost" ADD CONSTRAINT "bom_cost_bom_id_bom_id_fk" FOREIGN KEY ("bom_id") REFERENCES "public"."bom"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_cost" ADD CONSTRAINT "bom_cost_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_part" ADD CONSTRAINT "bom_part_bom_id_bom_id_fk" FOREIGN KEY ("bom_id") REFERENCES "public"."bom"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_part" ADD CONSTRAINT "bom_part_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bom_part" ADD CONSTRAINT "bom_part_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bom_alternative_item" ON "bom_alternative" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "bom_by_product_used" ON "bom_by_product" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "bom_part_used" ON "bom_part" USING btree ("item_id");--> statement-breakpoint
-- Whoever writes items writes what they are made of, too.
UPDATE role SET rights = array_append(rights, 'making.write') WHERE 'items.edit' = ANY (rights) AND NOT 'making.write' = ANY (rights);
