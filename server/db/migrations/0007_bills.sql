CREATE TABLE "bill" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "bill_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"kind" text NOT NULL,
	"party_id" integer NOT NULL,
	"reference" text NOT NULL,
	"billed_on" date NOT NULL,
	"due_on" date,
	"currency" text NOT NULL,
	"rate" numeric(18, 8) DEFAULT '1' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"net" numeric(18, 2) NOT NULL,
	"tax" numeric(18, 2) NOT NULL,
	"owed" numeric(18, 2) NOT NULL,
	"posted_at" timestamp with time zone,
	"undone_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "bill_number_unique" UNIQUE("number"),
	CONSTRAINT "bill_kind" CHECK ("bill"."kind" in ('bill', 'credit'))
);
--> statement-breakpoint
CREATE TABLE "bill_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "bill_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"bill_id" integer NOT NULL,
	"position" integer NOT NULL,
	"kind" text NOT NULL,
	"purchase_line_id" integer,
	"quantity" numeric(18, 4),
	"price" numeric(18, 6),
	"charge_id" integer,
	"final" boolean DEFAULT false NOT NULL,
	"account_id" integer,
	"text" text DEFAULT '' NOT NULL,
	"amount" numeric(18, 2) NOT NULL,
	"tax_code_id" integer,
	"cleared" numeric(18, 2) DEFAULT '0' NOT NULL,
	"difference" numeric(18, 2) DEFAULT '0' NOT NULL,
	"to_stock" numeric(18, 2) DEFAULT '0' NOT NULL,
	CONSTRAINT "bill_line_position" UNIQUE("bill_id","position"),
	CONSTRAINT "bill_line_kind" CHECK ("bill_line"."kind" in ('goods', 'charge', 'other'))
);
--> statement-breakpoint
CREATE TABLE "landed_charge" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "landed_charge_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"sheet_id" integer NOT NULL,
	"position" integer NOT NULL,
	"name" text NOT NULL,
	"by" text NOT NULL,
	"currency" text NOT NULL,
	"rate" numeric(18, 8) DEFAULT '1' NOT NULL,
	"amount" numeric(18, 2) NOT NULL,
	"estimate" numeric(18, 2) NOT NULL,
	"cleared" numeric(18, 2) DEFAULT '0' NOT NULL,
	"party_id" integer,
	"settled_at" timestamp with time zone,
	"removed_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "landed_receipt" (
	"sheet_id" integer NOT NULL,
	"movement_id" integer NOT NULL,
	CONSTRAINT "landed_receipt_sheet_id_movement_id_pk" PRIMARY KEY("sheet_id","movement_id")
);
--> statement-breakpoint
CREATE TABLE "landed_share" (
	"charge_id" integer NOT NULL,
	"line_id" bigint NOT NULL,
	"left_out" boolean DEFAULT false NOT NULL,
	"typed" numeric(18, 4),
	"amount" numeric(18, 2) NOT NULL,
	"share" numeric(18, 10) NOT NULL,
	"to_stock" numeric(18, 2) NOT NULL,
	CONSTRAINT "landed_share_charge_id_line_id_pk" PRIMARY KEY("charge_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "landed_sheet" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "landed_sheet_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"undone_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "landed_sheet_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "payment" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "payment_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"bill_id" integer NOT NULL,
	"paid_on" date NOT NULL,
	"amount" numeric(18, 2) NOT NULL,
	"rate" numeric(18, 8) DEFAULT '1' NOT NULL,
	"settled" numeric(18, 2) NOT NULL,
	"exchange" numeric(18, 2) DEFAULT '0' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"undone_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "payment_positive" CHECK ("payment"."amount" > 0)
);
--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "billed" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "billed_value" numeric(18, 2) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "cost_change" ADD COLUMN "whole" numeric(18, 2);--> statement-breakpoint
ALTER TABLE "cost_change" ADD COLUMN "share" numeric(18, 10);--> statement-breakpoint
ALTER TABLE "cost_change" ADD COLUMN "bill_line_id" integer;--> statement-breakpoint
ALTER TABLE "cost_change" ADD COLUMN "charge_id" integer;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD COLUMN "bill_id" integer;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD COLUMN "payment_id" integer;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD COLUMN "sheet_id" integer;--> statement-breakpoint
ALTER TABLE "bill" ADD CONSTRAINT "bill_party_id_party_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill" ADD CONSTRAINT "bill_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_line" ADD CONSTRAINT "bill_line_bill_id_bill_id_fk" FOREIGN KEY ("bill_id") REFERENCES "public"."bill"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_line" ADD CONSTRAINT "bill_line_purchase_line_id_purchase_line_id_fk" FOREIGN KEY ("purchase_line_id") REFERENCES "public"."purchase_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_line" ADD CONSTRAINT "bill_line_charge_id_landed_charge_id_fk" FOREIGN KEY ("charge_id") REFERENCES "public"."landed_charge"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_line" ADD CONSTRAINT "bill_line_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bill_line" ADD CONSTRAINT "bill_line_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_charge" ADD CONSTRAINT "landed_charge_sheet_id_landed_sheet_id_fk" FOREIGN KEY ("sheet_id") REFERENCES "public"."landed_sheet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_charge" ADD CONSTRAINT "landed_charge_party_id_party_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_receipt" ADD CONSTRAINT "landed_receipt_sheet_id_landed_sheet_id_fk" FOREIGN KEY ("sheet_id") REFERENCES "public"."landed_sheet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_receipt" ADD CONSTRAINT "landed_receipt_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_share" ADD CONSTRAINT "landed_share_charge_id_landed_charge_id_fk" FOREIGN KEY ("charge_id") REFERENCES "public"."landed_charge"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_share" ADD CONSTRAINT "landed_share_line_id_movement_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "landed_sheet" ADD CONSTRAINT "landed_sheet_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payment" ADD CONSTRAINT "payment_bill_id_bill_id_fk" FOREIGN KEY ("bill_id") REFERENCES "public"."bill"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "payment" ADD CONSTRAINT "payment_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bill_party" ON "bill" USING btree ("party_id");--> statement-breakpoint
CREATE INDEX "bill_reference" ON "bill" USING btree (lower("reference"));--> statement-breakpoint
CREATE INDEX "bill_line_purchase" ON "bill_line" USING btree ("purchase_line_id");--> statement-breakpoint
CREATE INDEX "bill_line_charge" ON "bill_line" USING btree ("charge_id");--> statement-breakpoint
CREATE INDEX "landed_charge_sheet" ON "landed_charge" USING btree ("sheet_id");--> statement-breakpoint
CREATE INDEX "landed_receipt_movement" ON "landed_receipt" USING btree ("movement_id");--> statement-breakpoint
CREATE INDEX "landed_share_line" ON "landed_share" USING btree ("line_id");--> statement-breakpoint
CREATE INDEX "payment_bill" ON "payment" USING btree ("bill_id");--> statement-breakpoint
ALTER TABLE "cost_change" ADD CONSTRAINT "cost_change_bill_line_id_bill_line_id_fk" FOREIGN KEY ("bill_line_id") REFERENCES "public"."bill_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_change" ADD CONSTRAINT "cost_change_charge_id_landed_charge_id_fk" FOREIGN KEY ("charge_id") REFERENCES "public"."landed_charge"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD CONSTRAINT "journal_entry_bill_id_bill_id_fk" FOREIGN KEY ("bill_id") REFERENCES "public"."bill"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD CONSTRAINT "journal_entry_payment_id_payment_id_fk" FOREIGN KEY ("payment_id") REFERENCES "public"."payment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD CONSTRAINT "journal_entry_sheet_id_landed_sheet_id_fk" FOREIGN KEY ("sheet_id") REFERENCES "public"."landed_sheet"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "cost_change_bill" ON "cost_change" USING btree ("bill_line_id");--> statement-breakpoint
CREATE INDEX "cost_change_line" ON "cost_change" USING btree ("movement_line_id");--> statement-breakpoint
CREATE INDEX "journal_entry_bill" ON "journal_entry" USING btree ("bill_id");--> statement-breakpoint
CREATE INDEX "journal_entry_day" ON "journal_entry" USING btree ("effective_on");
--> statement-breakpoint
INSERT INTO account (code, name, type, purpose) SELECT x.* FROM (VALUES ('1000', 'Bank', 'asset', 'bank'),
  ('1310', 'Tax on purchases, to claim back', 'asset', 'purchase-tax'),
  ('2100', 'Suppliers and carriers to be paid', 'liability', 'payable'),
  ('2130', 'Landed cost clearing', 'liability', 'landed-clearing'),
  ('5210', 'Price variance', 'expense', 'price-variance'),
  ('5220', 'Landed cost variance', 'expense', 'landed-variance'),
  ('5230', 'Exchange difference', 'expense', 'exchange-difference'),
  ('5300', 'Freight on sales', 'expense', 'outbound-freight'),
  ('6200', 'Other costs on bills', 'expense', 'other-costs')) x(code, name, type, purpose) WHERE EXISTS (SELECT 1 FROM company) ON CONFLICT DO NOTHING;
--> statement-breakpoint
INSERT INTO counter (kind, prefix, next) SELECT x.* FROM (VALUES ('bill', 'BILL-', 1001), ('landed cost', 'LC-', 1001)) x(kind, prefix, next) WHERE EXISTS (SELECT 1 FROM company) ON CONFLICT DO NOTHING;
--> statement-breakpoint
UPDATE role SET rights = rights || ARRAY['books.bill', 'books.pay'] WHERE name IN ('Owner', 'Stock controller');
--> statement-breakpoint
INSERT INTO place (kind, code, owned) SELECT 'supplier', 'Nobody in particular', false WHERE EXISTS (SELECT 1 FROM company) AND NOT EXISTS (SELECT 1 FROM place WHERE kind = 'supplier' AND party_id IS NULL);
