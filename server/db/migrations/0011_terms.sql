CREATE TABLE "purchase_charge" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "purchase_charge_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"order_id" integer NOT NULL,
	"position" integer NOT NULL,
	"label" text NOT NULL,
	"amount" numeric(18, 2) NOT NULL,
	"tax_code_id" integer,
	CONSTRAINT "purchase_charge_position" UNIQUE("order_id","position"),
	CONSTRAINT "purchase_charge_positive" CHECK ("purchase_charge"."amount" > 0)
);
--> statement-breakpoint
CREATE TABLE "handover" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "handover_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"entry_id" integer NOT NULL,
	"reference" text NOT NULL,
	"outside_number" text NOT NULL,
	"sent_at" timestamp with time zone NOT NULL,
	"sent_by" integer NOT NULL,
	"taken_back_at" timestamp with time zone,
	"taken_back_by" integer,
	CONSTRAINT "handover_reference_unique" UNIQUE("reference")
);
--> statement-breakpoint
CREATE TABLE "outside_account" (
	"code" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "standin_account" (
	"code" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "standin_document" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "standin_document_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"reference" text NOT NULL,
	"kind" text NOT NULL,
	"day" date NOT NULL,
	"party" text NOT NULL,
	"text" text NOT NULL,
	"reversed" boolean DEFAULT false NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "standin_document_reference_unique" UNIQUE("reference")
);
--> statement-breakpoint
CREATE TABLE "standin_document_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "standin_document_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"document_id" integer NOT NULL,
	"account_code" text NOT NULL,
	"amount" numeric(18, 2) NOT NULL
);
--> statement-breakpoint
DROP INDEX "purchase_line_open";--> statement-breakpoint
ALTER TABLE "item_supplier" ADD COLUMN "breaks" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "party" ADD COLUMN "tax_code_id" integer;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "direct" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "incoming" numeric(18, 4) GENERATED ALWAYS AS (case when active and not direct then greatest(base_quantity - cancelled - received, 0) else 0 end) STORED;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD COLUMN "ships_to_id" integer;--> statement-breakpoint
ALTER TABLE "account" ADD COLUMN "outside_code" text;--> statement-breakpoint
ALTER TABLE "purchase_charge" ADD CONSTRAINT "purchase_charge_order_id_purchase_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."purchase_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_charge" ADD CONSTRAINT "purchase_charge_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handover" ADD CONSTRAINT "handover_entry_id_journal_entry_id_fk" FOREIGN KEY ("entry_id") REFERENCES "public"."journal_entry"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handover" ADD CONSTRAINT "handover_sent_by_person_id_fk" FOREIGN KEY ("sent_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handover" ADD CONSTRAINT "handover_taken_back_by_person_id_fk" FOREIGN KEY ("taken_back_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standin_document_line" ADD CONSTRAINT "standin_document_line_document_id_standin_document_id_fk" FOREIGN KEY ("document_id") REFERENCES "public"."standin_document"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standin_document_line" ADD CONSTRAINT "standin_document_line_account_code_standin_account_code_fk" FOREIGN KEY ("account_code") REFERENCES "public"."standin_account"("code") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "handover_standing" ON "handover" USING btree ("entry_id") WHERE taken_back_at is null;--> statement-breakpoint
ALTER TABLE "party" ADD CONSTRAINT "party_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD CONSTRAINT "purchase_order_ships_to_id_party_id_fk" FOREIGN KEY ("ships_to_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "purchase_line_open" ON "purchase_line" USING btree ("item_id","site_id") WHERE incoming > 0;
