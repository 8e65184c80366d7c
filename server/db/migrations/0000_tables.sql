CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "change" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "change_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"kind" text NOT NULL,
	"subject_id" integer NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"person_id" integer NOT NULL,
	"field" text NOT NULL,
	"was" jsonb,
	"is" jsonb
);
--> statement-breakpoint
CREATE TABLE "company" (
	"id" integer PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"currency" text DEFAULT 'GBP' NOT NULL,
	"time_zone" text DEFAULT 'Europe/London' NOT NULL,
	"ship_days" integer DEFAULT 2 NOT NULL,
	"closed_through" date,
	CONSTRAINT "company_is_one" CHECK ("company"."id" = 1)
);
--> statement-breakpoint
CREATE TABLE "counter" (
	"kind" text PRIMARY KEY NOT NULL,
	"prefix" text NOT NULL,
	"next" integer DEFAULT 1 NOT NULL,
	"gapless" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "currency_rate" (
	"currency" text NOT NULL,
	"from_day" date NOT NULL,
	"rate" numeric(18, 8) NOT NULL,
	CONSTRAINT "currency_rate_currency_from_day_pk" PRIMARY KEY("currency","from_day")
);
--> statement-breakpoint
CREATE TABLE "reason" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "reason_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"code" text NOT NULL,
	"name" text NOT NULL,
	"place" text DEFAULT 'found-or-lost' NOT NULL,
	"account_id" integer NOT NULL,
	"retired_at" timestamp with time zone,
	CONSTRAINT "reason_code_unique" UNIQUE("code")
);
--> statement-breakpoint
CREATE TABLE "site" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "site_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"code" text NOT NULL,
	"name" text NOT NULL,
	"retired_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "tax_code" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "tax_code_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"code" text NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "tax_code_code_unique" UNIQUE("code")
);
--> statement-breakpoint
CREATE TABLE "tax_rate" (
	"tax_code_id" integer NOT NULL,
	"from_day" date NOT NULL,
	"rate" numeric(18, 4) NOT NULL,
	"recoverable" numeric(18, 4) DEFAULT '100' NOT NULL,
	CONSTRAINT "tax_rate_tax_code_id_from_day_pk" PRIMARY KEY("tax_code_id","from_day")
);
--> statement-breakpoint
CREATE TABLE "unit" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "unit_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"code" text NOT NULL,
	"name" text NOT NULL,
	"step" numeric(18, 4) DEFAULT '1' NOT NULL,
	CONSTRAINT "unit_code_unique" UNIQUE("code")
);
--> statement-breakpoint
CREATE TABLE "idempotency" (
	"person_id" integer NOT NULL,
	"route" text NOT NULL,
	"key" text NOT NULL,
	"request_hash" text NOT NULL,
	"answer" jsonb,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "idempotency_person_id_route_key_pk" PRIMARY KEY("person_id","route","key")
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "person_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"email" text NOT NULL,
	"password_hash" text NOT NULL,
	"active" boolean DEFAULT true NOT NULL
);
--> statement-breakpoint
CREATE TABLE "role" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "role_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"rights" text[] NOT NULL,
	CONSTRAINT "role_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "role_grant" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "role_grant_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"person_id" integer NOT NULL,
	"role_id" integer NOT NULL,
	"site_id" integer
);
--> statement-breakpoint
CREATE TABLE "session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" integer NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_in_attempt" (
	"key" text PRIMARY KEY NOT NULL,
	"points" integer DEFAULT 0 NOT NULL,
	"expire" bigint
);
--> statement-breakpoint
CREATE TABLE "barcode" (
	"code" text PRIMARY KEY NOT NULL,
	"item_id" integer NOT NULL,
	"position" integer DEFAULT 1 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "category" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "category_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"inventory_account_id" integer,
	"cost_account_id" integer,
	CONSTRAINT "category_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "item" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "item_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"sku" text NOT NULL,
	"name" text NOT NULL,
	"description" text DEFAULT '' NOT NULL,
	"category_id" integer,
	"unit_id" integer NOT NULL,
	"brand" text DEFAULT '' NOT NULL,
	"weight_kg" numeric(12, 4),
	"sales_price" numeric(18, 6),
	"purchase_price" numeric(18, 6),
	"tax_code_id" integer,
	"tracking" text DEFAULT 'none' NOT NULL,
	"cost_method" text DEFAULT 'average' NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"retired_at" timestamp with time zone,
	"findable" text DEFAULT '' NOT NULL,
	CONSTRAINT "item_tracking" CHECK ("item"."tracking" in ('none', 'lot', 'serial'))
);
--> statement-breakpoint
CREATE TABLE "item_policy" (
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"bin_id" integer,
	"reorder_point" numeric(18, 4),
	"order_up_to" numeric(18, 4),
	CONSTRAINT "item_policy_item_id_site_id_pk" PRIMARY KEY("item_id","site_id")
);
--> statement-breakpoint
CREATE TABLE "item_supplier" (
	"item_id" integer NOT NULL,
	"supplier_id" integer NOT NULL,
	"position" integer DEFAULT 1 NOT NULL,
	"code" text DEFAULT '' NOT NULL,
	"pack_size" numeric(18, 4) DEFAULT '1' NOT NULL,
	"minimum" numeric(18, 4) DEFAULT '0' NOT NULL,
	"price" numeric(18, 6),
	CONSTRAINT "item_supplier_item_id_supplier_id_pk" PRIMARY KEY("item_id","supplier_id")
);
--> statement-breakpoint
CREATE TABLE "lot" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "lot_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"item_id" integer NOT NULL,
	"kind" text NOT NULL,
	"code" text NOT NULL,
	"use_by" date,
	"past_use" boolean DEFAULT false NOT NULL,
	"place_id" integer,
	CONSTRAINT "lot_kind" CHECK ("lot"."kind" in ('lot', 'serial'))
);
--> statement-breakpoint
CREATE TABLE "party" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "party_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"name" text NOT NULL,
	"is_supplier" boolean DEFAULT false NOT NULL,
	"is_customer" boolean DEFAULT false NOT NULL,
	"is_holder" boolean DEFAULT false NOT NULL,
	"email" text DEFAULT '' NOT NULL,
	"address" text DEFAULT '' NOT NULL,
	"currency" text DEFAULT 'GBP' NOT NULL,
	"lead_days" integer DEFAULT 7 NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"retired_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "purchase_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "purchase_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"order_id" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"unit" text NOT NULL,
	"factor_numerator" integer DEFAULT 1 NOT NULL,
	"factor_denominator" integer DEFAULT 1 NOT NULL,
	"base_quantity" numeric(18, 4) NOT NULL,
	"price" numeric(18, 6) NOT NULL,
	"price_per" numeric(18, 4) DEFAULT '1' NOT NULL,
	"discount" numeric(18, 4) DEFAULT '0' NOT NULL,
	"tax_code_id" integer,
	"amount" numeric(18, 2) NOT NULL,
	"expected_on" date,
	"active" boolean DEFAULT false NOT NULL,
	"received" numeric(18, 4) DEFAULT '0' NOT NULL,
	"received_value" numeric(18, 2) DEFAULT '0' NOT NULL,
	"outstanding" numeric(18, 4) GENERATED ALWAYS AS (case when active then greatest(base_quantity - received, 0) else 0 end) STORED,
	CONSTRAINT "purchase_line_position" UNIQUE("order_id","position"),
	CONSTRAINT "purchase_line_positive" CHECK ("purchase_line"."quantity" > 0 and "purchase_line"."base_quantity" > 0 and "purchase_line"."price" >= 0 and "purchase_line"."price_per" > 0),
	CONSTRAINT "purchase_line_received" CHECK ("purchase_line"."received" >= 0)
);
--> statement-breakpoint
CREATE TABLE "purchase_order" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "purchase_order_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"supplier_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"currency" text NOT NULL,
	"rate" numeric(18, 8) DEFAULT '1' NOT NULL,
	"expected_on" date,
	"note" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	"placed_at" timestamp with time zone,
	"placed_by" integer,
	"closed_at" timestamp with time zone,
	"closed_by" integer,
	"cancelled_at" timestamp with time zone,
	"cancelled_by" integer,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "purchase_order_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "reservation" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "reservation_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"sales_line_id" integer NOT NULL,
	"lot_id" integer,
	"quantity" numeric(18, 4) NOT NULL,
	CONSTRAINT "reservation_once" UNIQUE NULLS NOT DISTINCT("sales_line_id","lot_id"),
	CONSTRAINT "reservation_not_negative" CHECK ("reservation"."quantity" >= 0)
);
--> statement-breakpoint
CREATE TABLE "sales_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "sales_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"order_id" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"unit" text NOT NULL,
	"factor_numerator" integer DEFAULT 1 NOT NULL,
	"factor_denominator" integer DEFAULT 1 NOT NULL,
	"base_quantity" numeric(18, 4) NOT NULL,
	"price" numeric(18, 6) NOT NULL,
	"price_per" numeric(18, 4) DEFAULT '1' NOT NULL,
	"discount" numeric(18, 4) DEFAULT '0' NOT NULL,
	"tax_code_id" integer,
	"amount" numeric(18, 2) NOT NULL,
	"ship_by" date NOT NULL,
	"promised_on" date,
	"active" boolean DEFAULT false NOT NULL,
	"picked" numeric(18, 4) DEFAULT '0' NOT NULL,
	"dispatched" numeric(18, 4) DEFAULT '0' NOT NULL,
	"dispatched_cost" numeric(18, 2) DEFAULT '0' NOT NULL,
	"reserved" numeric(18, 4) DEFAULT '0' NOT NULL,
	"wanted" numeric(18, 4) GENERATED ALWAYS AS (case when active then base_quantity - picked else 0 end) STORED,
	"short" numeric(18, 4) GENERATED ALWAYS AS (case when active then base_quantity - picked - reserved else 0 end) STORED,
	CONSTRAINT "sales_line_position" UNIQUE("order_id","position"),
	CONSTRAINT "sales_line_positive" CHECK ("sales_line"."quantity" > 0 and "sales_line"."base_quantity" > 0 and "sales_line"."price" >= 0 and "sales_line"."price_per" > 0),
	CONSTRAINT "sales_line_counters" CHECK ("sales_line"."dispatched" >= 0 and "sales_line"."picked" >= "sales_line"."dispatched" and "sales_line"."picked" <= "sales_line"."base_quantity"),
	CONSTRAINT "sales_line_reserved" CHECK ("sales_line"."reserved" >= 0 and ("sales_line"."reserved" = 0 or ("sales_line"."active" and "sales_line"."reserved" <= "sales_line"."base_quantity" - "sales_line"."picked")))
);
--> statement-breakpoint
CREATE TABLE "sales_order" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "sales_order_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"customer_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"currency" text NOT NULL,
	"rate" numeric(18, 8) DEFAULT '1' NOT NULL,
	"ship_by" date NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	"confirmed_at" timestamp with time zone,
	"confirmed_by" integer,
	"closed_at" timestamp with time zone,
	"closed_by" integer,
	"cancelled_at" timestamp with time zone,
	"cancelled_by" integer,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "sales_order_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "supply" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "supply_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"sales_line_id" integer NOT NULL,
	"source" text NOT NULL,
	"purchase_line_id" integer,
	"from_site_id" integer,
	"quantity" numeric(18, 4) NOT NULL,
	"promised_on" date,
	CONSTRAINT "supply_source" CHECK ("supply"."source" in ('wait', 'bring', 'direct')),
	CONSTRAINT "supply_positive" CHECK ("supply"."quantity" > 0)
);
--> statement-breakpoint
CREATE TABLE "balance" (
	"item_id" integer NOT NULL,
	"place_id" integer NOT NULL,
	"lot_id" integer,
	"quantity" numeric(18, 4) NOT NULL,
	"owned" boolean NOT NULL,
	CONSTRAINT "balance_key" UNIQUE NULLS NOT DISTINCT("item_id","place_id","lot_id"),
	CONSTRAINT "balance_not_negative" CHECK (not "balance"."owned" or "balance"."quantity" >= 0)
);
--> statement-breakpoint
CREATE TABLE "cost_change" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "cost_change_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"item_id" integer NOT NULL,
	"movement_line_id" bigint,
	"lot_id" integer,
	"amount" numeric(18, 2) NOT NULL,
	"cause" text NOT NULL,
	"effective_on" date NOT NULL,
	"seq" bigint NOT NULL,
	"reverses" integer,
	CONSTRAINT "cost_change_reverses_unique" UNIQUE("reverses")
);
--> statement-breakpoint
CREATE TABLE "item_site" (
	"item_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"on_hand" numeric(18, 4) DEFAULT '0' NOT NULL,
	"reserved" numeric(18, 4) DEFAULT '0' NOT NULL,
	"free" numeric(18, 4) GENERATED ALWAYS AS (on_hand - reserved) STORED,
	"bench" numeric(18, 4) DEFAULT '0' NOT NULL,
	"on_order" numeric(18, 4) DEFAULT '0' NOT NULL,
	"short" numeric(18, 4) DEFAULT '0' NOT NULL,
	CONSTRAINT "item_site_key" UNIQUE("item_id","site_id"),
	CONSTRAINT "item_site_reserved" CHECK ("item_site"."reserved" <= "item_site"."on_hand" and "item_site"."reserved" >= 0)
);
--> statement-breakpoint
CREATE TABLE "movement" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "movement_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"kind" text NOT NULL,
	"effective_on" date NOT NULL,
	"happened_at" timestamp with time zone,
	"posted_at" timestamp with time zone NOT NULL,
	"person_id" integer NOT NULL,
	"reverses" integer,
	"reason_id" integer,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "movement_reverses_unique" UNIQUE("reverses")
);
--> statement-breakpoint
CREATE TABLE "movement_line" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "movement_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"movement_id" integer NOT NULL,
	"position" integer NOT NULL,
	"item_id" integer NOT NULL,
	"lot_id" integer,
	"quantity" numeric(18, 4) NOT NULL,
	"from_place_id" integer NOT NULL,
	"to_place_id" integer NOT NULL,
	"value" numeric(18, 2) NOT NULL,
	"variance" numeric(18, 2) DEFAULT '0' NOT NULL,
	"seq" bigint NOT NULL,
	"effective_on" date NOT NULL,
	"purchase_line_id" integer,
	"sales_line_id" integer,
	CONSTRAINT "movement_line_seq" UNIQUE("item_id","seq"),
	CONSTRAINT "movement_line_positive" CHECK ("movement_line"."quantity" > 0),
	CONSTRAINT "movement_line_moves" CHECK ("movement_line"."from_place_id" <> "movement_line"."to_place_id")
);
--> statement-breakpoint
CREATE TABLE "place" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "place_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"kind" text NOT NULL,
	"site_id" integer,
	"party_id" integer,
	"code" text NOT NULL,
	"name" text DEFAULT '' NOT NULL,
	"owned" boolean NOT NULL,
	"sellable" boolean DEFAULT false NOT NULL,
	"unplaced" boolean DEFAULT false NOT NULL,
	"walk" integer DEFAULT 0 NOT NULL,
	"retired_at" timestamp with time zone,
	CONSTRAINT "place_owned" CHECK ("place"."owned" = ("place"."kind" in ('bin', 'bench', 'transit', 'holder', 'in-work')))
);
--> statement-breakpoint
CREATE TABLE "pool" (
	"item_id" integer PRIMARY KEY NOT NULL,
	"quantity" numeric(18, 4) DEFAULT '0' NOT NULL,
	"value" numeric(18, 2) DEFAULT '0' NOT NULL,
	"unit_cost" numeric(18, 6) GENERATED ALWAYS AS (case when quantity > 0 then value / quantity else 0 end) STORED,
	"last_unit_cost" numeric(18, 6),
	"last_seq" bigint DEFAULT 0 NOT NULL,
	"on_hand" numeric(18, 4) DEFAULT '0' NOT NULL,
	"reserved" numeric(18, 4) DEFAULT '0' NOT NULL,
	"free" numeric(18, 4) GENERATED ALWAYS AS (on_hand - reserved) STORED,
	"on_order" numeric(18, 4) DEFAULT '0' NOT NULL,
	"short" numeric(18, 4) DEFAULT '0' NOT NULL,
	CONSTRAINT "pool_not_negative" CHECK ("pool"."quantity" >= 0 and "pool"."value" >= 0 and ("pool"."quantity" > 0 or "pool"."value" = 0))
);
--> statement-breakpoint
CREATE TABLE "account" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "account_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"code" text NOT NULL,
	"name" text NOT NULL,
	"type" text NOT NULL,
	"purpose" text,
	CONSTRAINT "account_code_unique" UNIQUE("code"),
	CONSTRAINT "account_purpose_unique" UNIQUE("purpose")
);
--> statement-breakpoint
CREATE TABLE "journal_entry" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "journal_entry_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"movement_id" integer,
	"effective_on" date NOT NULL,
	"posted_at" timestamp with time zone NOT NULL,
	"text" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "journal_line" (
	"id" bigint PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "journal_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 9223372036854775807 START WITH 1 CACHE 1),
	"entry_id" integer NOT NULL,
	"account_id" integer NOT NULL,
	"item_id" integer,
	"amount" numeric(18, 2) NOT NULL
);
--> statement-breakpoint
ALTER TABLE "tax_rate" ADD CONSTRAINT "tax_rate_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "idempotency" ADD CONSTRAINT "idempotency_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "role_grant" ADD CONSTRAINT "role_grant_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "role_grant" ADD CONSTRAINT "role_grant_role_id_role_id_fk" FOREIGN KEY ("role_id") REFERENCES "public"."role"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "role_grant" ADD CONSTRAINT "role_grant_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "barcode" ADD CONSTRAINT "barcode_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "category" ADD CONSTRAINT "category_inventory_account_id_account_id_fk" FOREIGN KEY ("inventory_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "category" ADD CONSTRAINT "category_cost_account_id_account_id_fk" FOREIGN KEY ("cost_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_category_id_category_id_fk" FOREIGN KEY ("category_id") REFERENCES "public"."category"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_policy" ADD CONSTRAINT "item_policy_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_policy" ADD CONSTRAINT "item_policy_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_policy" ADD CONSTRAINT "item_policy_bin_id_place_id_fk" FOREIGN KEY ("bin_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_supplier" ADD CONSTRAINT "item_supplier_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_supplier" ADD CONSTRAINT "item_supplier_supplier_id_party_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lot" ADD CONSTRAINT "lot_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "lot" ADD CONSTRAINT "lot_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD CONSTRAINT "purchase_line_order_id_purchase_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."purchase_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD CONSTRAINT "purchase_line_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD CONSTRAINT "purchase_line_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD CONSTRAINT "purchase_line_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD CONSTRAINT "purchase_order_supplier_id_party_id_fk" FOREIGN KEY ("supplier_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD CONSTRAINT "purchase_order_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD CONSTRAINT "purchase_order_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD CONSTRAINT "purchase_order_placed_by_person_id_fk" FOREIGN KEY ("placed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD CONSTRAINT "purchase_order_closed_by_person_id_fk" FOREIGN KEY ("closed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD CONSTRAINT "purchase_order_cancelled_by_person_id_fk" FOREIGN KEY ("cancelled_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reservation" ADD CONSTRAINT "reservation_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reservation" ADD CONSTRAINT "reservation_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reservation" ADD CONSTRAINT "reservation_sales_line_id_sales_line_id_fk" FOREIGN KEY ("sales_line_id") REFERENCES "public"."sales_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reservation" ADD CONSTRAINT "reservation_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_line" ADD CONSTRAINT "sales_line_order_id_sales_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."sales_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_line" ADD CONSTRAINT "sales_line_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_line" ADD CONSTRAINT "sales_line_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_line" ADD CONSTRAINT "sales_line_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_order" ADD CONSTRAINT "sales_order_customer_id_party_id_fk" FOREIGN KEY ("customer_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_order" ADD CONSTRAINT "sales_order_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_order" ADD CONSTRAINT "sales_order_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_order" ADD CONSTRAINT "sales_order_confirmed_by_person_id_fk" FOREIGN KEY ("confirmed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_order" ADD CONSTRAINT "sales_order_closed_by_person_id_fk" FOREIGN KEY ("closed_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sales_order" ADD CONSTRAINT "sales_order_cancelled_by_person_id_fk" FOREIGN KEY ("cancelled_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "supply" ADD CONSTRAINT "supply_sales_line_id_sales_line_id_fk" FOREIGN KEY ("sales_line_id") REFERENCES "public"."sales_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "supply" ADD CONSTRAINT "supply_from_site_id_site_id_fk" FOREIGN KEY ("from_site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "balance" ADD CONSTRAINT "balance_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "balance" ADD CONSTRAINT "balance_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "balance" ADD CONSTRAINT "balance_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_change" ADD CONSTRAINT "cost_change_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_change" ADD CONSTRAINT "cost_change_movement_line_id_movement_line_id_fk" FOREIGN KEY ("movement_line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_change" ADD CONSTRAINT "cost_change_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_change" ADD CONSTRAINT "cost_change_reverses_cost_change_id_fk" FOREIGN KEY ("reverses") REFERENCES "public"."cost_change"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_site" ADD CONSTRAINT "item_site_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item_site" ADD CONSTRAINT "item_site_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_reverses_movement_id_fk" FOREIGN KEY ("reverses") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement" ADD CONSTRAINT "movement_reason_id_reason_id_fk" FOREIGN KEY ("reason_id") REFERENCES "public"."reason"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_from_place_id_place_id_fk" FOREIGN KEY ("from_place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_to_place_id_place_id_fk" FOREIGN KEY ("to_place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_purchase_line_id_purchase_line_id_fk" FOREIGN KEY ("purchase_line_id") REFERENCES "public"."purchase_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "movement_line" ADD CONSTRAINT "movement_line_sales_line_id_sales_line_id_fk" FOREIGN KEY ("sales_line_id") REFERENCES "public"."sales_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "place" ADD CONSTRAINT "place_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "place" ADD CONSTRAINT "place_party_id_party_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pool" ADD CONSTRAINT "pool_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD CONSTRAINT "journal_entry_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_line" ADD CONSTRAINT "journal_line_entry_id_journal_entry_id_fk" FOREIGN KEY ("entry_id") REFERENCES "public"."journal_entry"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_line" ADD CONSTRAINT "journal_line_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_line" ADD CONSTRAINT "journal_line_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "site_code" ON "site" USING btree (lower("code"));--> statement-breakpoint
CREATE UNIQUE INDEX "person_email" ON "person" USING btree (lower("email"));--> statement-breakpoint
CREATE UNIQUE INDEX "role_grant_once" ON "role_grant" USING btree ("person_id","role_id",coalesce("site_id", 0));--> statement-breakpoint
CREATE INDEX "session_expiry" ON "session" USING btree ("expires_at");--> statement-breakpoint
CREATE INDEX "barcode_item" ON "barcode" USING btree ("item_id");--> statement-breakpoint
CREATE UNIQUE INDEX "item_sku" ON "item" USING btree (lower("sku"));--> statement-breakpoint
CREATE INDEX "item_findable" ON "item" USING gin ("findable" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "item_name" ON "item" USING btree ("name","id");--> statement-breakpoint
CREATE INDEX "item_supplier_code" ON "item_supplier" USING btree (lower("code"));--> statement-breakpoint
CREATE INDEX "item_supplier_supplier" ON "item_supplier" USING btree ("supplier_id");--> statement-breakpoint
CREATE UNIQUE INDEX "lot_code" ON "lot" USING btree ("item_id","code");--> statement-breakpoint
CREATE UNIQUE INDEX "party_name" ON "party" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "purchase_line_open" ON "purchase_line" USING btree ("item_id","site_id") WHERE outstanding > 0;--> statement-breakpoint
CREATE INDEX "purchase_order_open" ON "purchase_order" USING btree ("expected_on") WHERE placed_at is not null and closed_at is null and cancelled_at is null;--> statement-breakpoint
CREATE INDEX "reservation_item" ON "reservation" USING btree ("item_id","site_id");--> statement-breakpoint
CREATE INDEX "sales_line_wanted" ON "sales_line" USING btree ("item_id","site_id") WHERE wanted > 0;--> statement-breakpoint
CREATE INDEX "sales_line_bench" ON "sales_line" USING btree ("item_id","site_id") WHERE picked > dispatched;--> statement-breakpoint
CREATE INDEX "balance_place" ON "balance" USING btree ("place_id") WHERE quantity <> 0;--> statement-breakpoint
CREATE INDEX "cost_change_item" ON "cost_change" USING btree ("item_id","effective_on");--> statement-breakpoint
CREATE INDEX "item_site_on_hand" ON "item_site" USING btree ("site_id","on_hand","item_id");--> statement-breakpoint
CREATE INDEX "item_site_free" ON "item_site" USING btree ("site_id","free","item_id");--> statement-breakpoint
CREATE INDEX "item_site_reserved" ON "item_site" USING btree ("site_id","reserved","item_id");--> statement-breakpoint
CREATE INDEX "item_site_on_order" ON "item_site" USING btree ("site_id","on_order","item_id");--> statement-breakpoint
CREATE INDEX "movement_posted" ON "movement" USING btree ("posted_at");--> statement-breakpoint
CREATE INDEX "movement_line_day" ON "movement_line" USING btree ("item_id","effective_on");--> statement-breakpoint
CREATE INDEX "movement_line_movement" ON "movement_line" USING btree ("movement_id");--> statement-breakpoint
CREATE INDEX "movement_line_purchase" ON "movement_line" USING btree ("purchase_line_id") WHERE purchase_line_id is not null;--> statement-breakpoint
CREATE INDEX "movement_line_sales" ON "movement_line" USING btree ("sales_line_id") WHERE sales_line_id is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "place_bin_code" ON "place" USING btree ("site_id",lower("code")) WHERE kind = 'bin';--> statement-breakpoint
CREATE UNIQUE INDEX "place_bench" ON "place" USING btree ("site_id") WHERE kind = 'bench';--> statement-breakpoint
CREATE UNIQUE INDEX "place_unplaced" ON "place" USING btree ("site_id") WHERE unplaced;--> statement-breakpoint
CREATE UNIQUE INDEX "place_party" ON "place" USING btree ("kind","party_id") WHERE party_id is not null;--> statement-breakpoint
CREATE INDEX "pool_on_hand" ON "pool" USING btree ("on_hand","item_id");--> statement-breakpoint
CREATE INDEX "pool_reserved" ON "pool" USING btree ("reserved","item_id");--> statement-breakpoint
CREATE INDEX "pool_free" ON "pool" USING btree ("free","item_id");--> statement-breakpoint
CREATE INDEX "pool_on_order" ON "pool" USING btree ("on_order","item_id");--> statement-breakpoint
CREATE INDEX "pool_unit_cost" ON "pool" USING btree ("unit_cost","item_id");--> statement-breakpoint
CREATE INDEX "pool_value" ON "pool" USING btree ("value","item_id");--> statement-breakpoint
CREATE INDEX "journal_entry_movement" ON "journal_entry" USING btree ("movement_id");--> statement-breakpoint
CREATE INDEX "journal_line_entry" ON "journal_line" USING btree ("entry_id");--> statement-breakpoint
CREATE INDEX "journal_line_account" ON "journal_line" USING btree ("account_id");