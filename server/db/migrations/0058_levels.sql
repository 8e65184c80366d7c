CREATE TABLE "demand_before" (
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"day" date NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	CONSTRAINT "demand_before_item_id_site_id_day_pk" PRIMARY KEY("item_id","site_id","day"),
	CONSTRAINT "demand_before_quantity" CHECK ("demand_before"."quantity" >= 0)
);
--> statement-breakpoint
CREATE TABLE "demand_event" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "demand_event_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"starts_on" date NOT NULL,
	"ends_on" date NOT NULL,
	"site_id" integer,
	"category_id" integer,
	"item_id" integer,
	"counts" boolean DEFAULT false NOT NULL,
	CONSTRAINT "demand_event_days" CHECK ("demand_event"."starts_on" <= "demand_event"."ends_on"),
	CONSTRAINT "demand_event_of" CHECK (num_nonnulls("demand_event"."category_id", "demand_event"."item_id") <= 1)
);
--> statement-breakpoint
CREATE TABLE "level_suggestion" (
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"made_on" date NOT NULL,
	"pattern" text NOT NULL,
	"method" text,
	"per_day" numeric(18, 4) NOT NULL,
	"spread" double precision NOT NULL,
	"wanted_year" numeric(18, 4) NOT NULL,
	"lead_days" double precision NOT NULL,
	"lead_spread" double precision NOT NULL,
	"lead_from" text NOT NULL,
	"point" numeric(18, 4) NOT NULL,
	"up_to" numeric(18, 4) NOT NULL,
	"without_stock" integer NOT NULL,
	"apart" integer NOT NULL,
	"days_out" integer NOT NULL,
	"average_stock" double precision NOT NULL,
	"days_out_now" integer,
	"average_stock_now" double precision,
	"decision" text,
	"decided_at" timestamp with time zone,
	"decided_by" integer,
	"refused_point" numeric(18, 4),
	"refused_up_to" numeric(18, 4),
	"reason" text DEFAULT '' NOT NULL,
	CONSTRAINT "level_suggestion_item_id_site_id_pk" PRIMARY KEY("item_id","site_id")
);
--> statement-breakpoint
CREATE TABLE "put_off" (
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"until" date NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"person_id" integer NOT NULL,
	CONSTRAINT "put_off_item_id_site_id_pk" PRIMARY KEY("item_id","site_id")
);
--> statement-breakpoint
CREATE TABLE "suggestion_run" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "suggestion_run_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"asked_at" timestamp with time zone NOT NULL,
	"asked_by" integer,
	"started_at" timestamp with time zone,
	"heard_at" timestamp with time zone,
	"ended_at" timestamp with time zone,
	"stopped" boolean DEFAULT false NOT NULL,
	"total" integer,
	"done" integer DEFAULT 0 NOT NULL,
	"fault" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "share_a" integer DEFAULT 80 NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "share_b" integer DEFAULT 95 NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "service_a" numeric(18, 4) DEFAULT '98' NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "service_b" numeric(18, 4) DEFAULT '95' NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "service_c" numeric(18, 4) DEFAULT '90' NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "order_cost" numeric(18, 4) DEFAULT '12' NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "transfer_cost" numeric(18, 4) DEFAULT '2' NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "holding_rate" numeric(18, 4) DEFAULT '20' NOT NULL;--> statement-breakpoint
ALTER TABLE "party" ADD COLUMN "minimum_order" numeric(18, 2);--> statement-breakpoint
ALTER TABLE "item_policy" ADD COLUMN "cover_days" integer;--> statement-breakpoint
ALTER TABLE "item_policy" ADD COLUMN "pack_size" numeric(18, 4);--> statement-breakpoint
ALTER TABLE "item_policy" ADD COLUMN "way" text DEFAULT 'best' NOT NULL;--> statement-breakpoint
ALTER TABLE "item_policy" ADD COLUMN "way_supplier_id" integer;--> statement-breakpoint
ALTER TABLE "item_policy" ADD COLUMN "way_site_id" integer;--> statement-breakpoint
ALTER TABLE "item_policy" ADD COLUMN "per_day" numeric(18, 4);--> statement-breakpoint
ALTER TABLE "item_policy" ADD COLUMN "point" numeric(18, 4) GENERATED ALWAYS AS (case when reorder_point is not null then greatest(reorder_point, ceil(per_day * cover_days)) end) STORED;--> statement-breakpoint
ALTER TABLE "item_policy" ADD COLUMN "up_to" numeric(18, 4) GENERATED ALWAYS AS (order_up_to + greatest(ceil(per_day * cover_days) - reorder_point, 0)) STORED;--> statement-breakpoint
ALTER TABLE "demand_before" ADD CONSTRAINT "demand_before_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "demand_before" ADD CONSTRAINT "demand_before_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "demand_event" ADD CONSTRAINT "demand_event_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "demand_event" ADD CONSTRAINT "demand_event_category_id_category_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."category"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "demand_event" ADD CONSTRAINT "demand_event_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "level_suggestion" ADD CONSTRAINT "level_suggestion_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "level_suggestion" ADD CONSTRAINT "level_suggestion_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "level_suggestion" ADD CONSTRAINT "level_suggestion_decided_by_person_id_fk" FOREIGN KEY ("decided_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "put_off" ADD CONSTRAINT "put_off_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "put_off" ADD CONSTRAINT "put_off_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "put_off" ADD CONSTRAINT "put_off_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "suggestion_run" ADD CONSTRAINT "suggestion_run_asked_by_person_id_fk" FOREIGN KEY ("asked_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "level_suggestion_site" ON "level_suggestion" USING btree ("site_id");--> statement-breakpoint
ALTER TABLE "item_policy" ADD CONSTRAINT "item_policy_way_supplier_id_party_id_fk" FOREIGN KEY ("way_supplier_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_policy" ADD CONSTRAINT "item_policy_way_site_id_site_id_fk" FOREIGN KEY ("way_site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_policy" ADD CONSTRAINT "item_policy_pack" CHECK ("item_policy"."pack_size" > 0);--> statement-breakpoint
ALTER TABLE "item_policy" ADD CONSTRAINT "item_policy_cover" CHECK ("item_policy"."cover_days" between 1 and 365);--> statement-breakpoint
ALTER TABLE "item_policy" ADD CONSTRAINT "item_policy_way" CHECK (("item_policy"."way" = 'bring') = ("item_policy"."way_site_id" is not null) and ("item_policy"."way" = 'buy' or "item_policy"."way_supplier_id" is null));