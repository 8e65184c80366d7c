CREATE TABLE "invoice" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "invoice_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"running" integer NOT NULL,
	"kind" text NOT NULL,
	"credits_id" integer,
	"party_id" integer NOT NULL,
	"address" text DEFAULT '' NOT NULL,
	"invoiced_on" date NOT NULL,
	"due_on" date NOT NULL,
	"currency" text NOT NULL,
	"rate" numeric(18, 8) DEFAULT '1' NOT NULL,
	"reference" text DEFAULT '' NOT NULL,
	"opening" text DEFAULT '' NOT NULL,
	"closing" text DEFAULT '' NOT NULL,
	"net" numeric NOT NULL,
	"tax" numeric NOT NULL,
	"owed" numeric(18, 2) NOT NULL,
	"handed_over_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "invoice_number_unique" UNIQUE("number"),
	CONSTRAINT "invoice_running" UNIQUE("kind","running"),
	CONSTRAINT "invoice_kind" CHECK ("invoice"."kind" in ('invoice', 'credit') and ("invoice"."kind" = 'credit') = ("invoice"."credits_id" is not null))
);
--> statement-breakpoint
CREATE TABLE "invoice_cover" (
	"invoice_line_id" integer NOT NULL,
	"line_id" bigint NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	CONSTRAINT "invoice_cover_invoice_line_id_line_id_pk" PRIMARY KEY("invoice_line_id","line_id"),
	CONSTRAINT "invoice_cover_positive" CHECK ("invoice_cover"."quantity" > 0)
);
--> statement-breakpoint
CREATE TABLE "invoice_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "invoice_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"invoice_id" integer NOT NULL,
	"position" integer NOT NULL,
	"kind" text NOT NULL,
	"sales_line_id" integer,
	"shipment_id" integer,
	"credits_line_id" integer,
	"text" text NOT NULL,
	"quantity" numeric(18, 4),
	"amount" numeric NOT NULL,
	"company" numeric(18, 2) NOT NULL,
	"account_id" integer NOT NULL,
	"tax_code_id" integer,
	"tax_rate" numeric DEFAULT '0' NOT NULL,
	CONSTRAINT "invoice_line_position" UNIQUE("invoice_id","position"),
	CONSTRAINT "invoice_line_kind" CHECK ("invoice_line"."kind" in ('goods', 'freight', 'other') and ("invoice_line"."kind" = 'goods') = ("invoice_line"."sales_line_id" is not null)),
	CONSTRAINT "invoice_line_amount" CHECK ("invoice_line"."amount" >= 0 and ("invoice_line"."quantity" is null or "invoice_line"."quantity" > 0))
);
--> statement-breakpoint
CREATE TABLE "invoice_tax" (
	"invoice_id" integer NOT NULL,
	"rate" numeric NOT NULL,
	"base" numeric NOT NULL,
	"tax" numeric NOT NULL,
	"company" numeric(18, 2) NOT NULL,
	CONSTRAINT "invoice_tax_invoice_id_rate_pk" PRIMARY KEY("invoice_id","rate")
);
--> statement-breakpoint
CREATE TABLE "money_in" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "money_in_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"party_id" integer NOT NULL,
	"paid_on" date NOT NULL,
	"currency" text NOT NULL,
	"amount" numeric NOT NULL,
	"rate" numeric(18, 8) DEFAULT '1' NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"undone_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "money_part" (
	"money_id" integer NOT NULL,
	"invoice_id" integer NOT NULL,
	"amount" numeric NOT NULL,
	"settled" numeric(18, 2) NOT NULL,
	"exchange" numeric(18, 2) DEFAULT '0' NOT NULL,
	CONSTRAINT "money_part_money_id_invoice_id_pk" PRIMARY KEY("money_id","invoice_id")
);
--> statement-breakpoint
CREATE TABLE "logo" (
	"id" integer PRIMARY KEY NOT NULL,
	"type" text NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "logo_is_one" CHECK ("logo"."id" = 1)
);
--> statement-breakpoint
CREATE TABLE "paper_words" (
	"kind" text PRIMARY KEY NOT NULL,
	"opening" text NOT NULL,
	"closing" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "address" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "tax_number" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "company" ADD COLUMN "pay_to" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "party" ADD COLUMN "pay_days" integer DEFAULT 30 NOT NULL;--> statement-breakpoint
ALTER TABLE "category" ADD COLUMN "sales_account_id" integer;--> statement-breakpoint
ALTER TABLE "family" ADD COLUMN "sales_account_id" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "sales_account_id" integer;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD COLUMN "invoice_id" integer;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD COLUMN "money_id" integer;--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "sales_order_id" integer;--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "invoice_id" integer;--> statement-breakpoint
ALTER TABLE "invoice" ADD CONSTRAINT "invoice_credits_id_invoice_id_fk" FOREIGN KEY ("credits_id") REFERENCES "public"."invoice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice" ADD CONSTRAINT "invoice_party_id_party_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice" ADD CONSTRAINT "invoice_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_cover" ADD CONSTRAINT "invoice_cover_invoice_line_id_invoice_line_id_fk" FOREIGN KEY ("invoice_line_id") REFERENCES "public"."invoice_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_cover" ADD CONSTRAINT "invoice_cover_line_id_movement_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."movement_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_line" ADD CONSTRAINT "invoice_line_invoice_id_invoice_id_fk" FOREIGN KEY ("invoice_id") REFERENCES "public"."invoice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_line" ADD CONSTRAINT "invoice_line_sales_line_id_sales_terms_id_fk" FOREIGN KEY ("sales_line_id") REFERENCES "public"."sales_terms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_line" ADD CONSTRAINT "invoice_line_shipment_id_shipment_id_fk" FOREIGN KEY ("shipment_id") REFERENCES "public"."shipment"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_line" ADD CONSTRAINT "invoice_line_credits_line_id_invoice_line_id_fk" FOREIGN KEY ("credits_line_id") REFERENCES "public"."invoice_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_line" ADD CONSTRAINT "invoice_line_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_line" ADD CONSTRAINT "invoice_line_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice_tax" ADD CONSTRAINT "invoice_tax_invoice_id_invoice_id_fk" FOREIGN KEY ("invoice_id") REFERENCES "public"."invoice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "money_in" ADD CONSTRAINT "money_in_party_id_party_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "money_in" ADD CONSTRAINT "money_in_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "money_part" ADD CONSTRAINT "money_part_money_id_money_in_id_fk" FOREIGN KEY ("money_id") REFERENCES "public"."money_in"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "money_part" ADD CONSTRAINT "money_part_invoice_id_invoice_id_fk" FOREIGN KEY ("invoice_id") REFERENCES "public"."invoice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "invoice_party" ON "invoice" USING btree ("party_id");--> statement-breakpoint
CREATE INDEX "invoice_credits" ON "invoice" USING btree ("credits_id");--> statement-breakpoint
CREATE INDEX "invoice_day" ON "invoice" USING btree ("invoiced_on");--> statement-breakpoint
CREATE INDEX "invoice_cover_line" ON "invoice_cover" USING btree ("line_id");--> statement-breakpoint
CREATE INDEX "invoice_line_sales" ON "invoice_line" USING btree ("sales_line_id");--> statement-breakpoint
CREATE INDEX "invoice_line_shipment" ON "invoice_line" USING btree ("shipment_id");--> statement-breakpoint
CREATE INDEX "invoice_line_credits" ON "invoice_line" USING btree ("credits_line_id");--> statement-breakpoint
CREATE INDEX "money_in_party" ON "money_in" USING btree ("party_id");--> statement-breakpoint
CREATE INDEX "money_part_invoice" ON "money_part" USING btree ("invoice_id");--> statement-breakpoint
ALTER TABLE "category" ADD CONSTRAINT "category_sales_account_id_account_id_fk" FOREIGN KEY ("sales_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "family" ADD CONSTRAINT "family_sales_account_id_account_id_fk" FOREIGN KEY ("sales_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_sales_account_id_account_id_fk" FOREIGN KEY ("sales_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD CONSTRAINT "journal_entry_invoice_id_invoice_id_fk" FOREIGN KEY ("invoice_id") REFERENCES "public"."invoice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_entry" ADD CONSTRAINT "journal_entry_money_id_money_in_id_fk" FOREIGN KEY ("money_id") REFERENCES "public"."money_in"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letter" ADD CONSTRAINT "letter_sales_order_id_sales_order_id_fk" FOREIGN KEY ("sales_order_id") REFERENCES "public"."sales_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letter" ADD CONSTRAINT "letter_invoice_id_invoice_id_fk" FOREIGN KEY ("invoice_id") REFERENCES "public"."invoice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "document_line_to_invoice" ON "document_line" USING btree ("id") WHERE kind = 'sales' and finished > billed;--> statement-breakpoint
CREATE INDEX "journal_entry_invoice" ON "journal_entry" USING btree ("invoice_id");--> statement-breakpoint
CREATE INDEX "journal_entry_money" ON "journal_entry" USING btree ("money_id");--> statement-breakpoint
CREATE INDEX "letter_sale" ON "letter" USING btree ("sales_order_id");--> statement-breakpoint
CREATE INDEX "letter_invoice" ON "letter" USING btree ("invoice_id");--> statement-breakpoint
-- What customers owe, what is sold and the tax on it get accounts of their own; credit notes get numbers; whoever enters bills may issue invoices.
INSERT INTO account (code, name, type, purpose)
SELECT CASE WHEN EXISTS (SELECT 1 FROM account WHERE code = a.code) THEN a.code || '-S' ELSE a.code END, a.name, a.type, a.purpose
FROM (VALUES ('1100', 'Customers to pay', 'asset', 'receivable'), ('2200', 'Tax on sales', 'liability', 'sales-tax'),
  ('4000', 'Sales', 'income', 'sales'), ('4100', 'Freight charged', 'income', 'freight-income')) a (code, name, type, purpose)
WHERE EXISTS (SELECT 1 FROM account WHERE purpose = 'grni');
--> statement-breakpoint
INSERT INTO counter (kind, prefix, next, gapless)
SELECT 'credit note', 'CN-', 1, true
WHERE EXISTS (SELECT 1 FROM counter WHERE kind = 'invoice');
--> statement-breakpoint
UPDATE role SET rights = array_append(rights, 'books.invoice') WHERE 'books.bill' = ANY (rights);
