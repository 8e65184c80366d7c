CREATE TABLE "department" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "department_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"code" text NOT NULL,
	"name" text NOT NULL,
	"retired_at" timestamp with time zone,
	CONSTRAINT "department_code_unique" UNIQUE("code")
);
--> statement-breakpoint
CREATE TABLE "cost_bearer" (
	"movement_id" integer PRIMARY KEY NOT NULL,
	"account_id" integer NOT NULL,
	"department_id" integer,
	"tax_code_id" integer,
	"tax_rate" numeric DEFAULT '0' NOT NULL,
	"tax_base" numeric(18, 2) DEFAULT '0' NOT NULL,
	"tax" numeric(18, 2) DEFAULT '0' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "reason" ADD COLUMN "tax_code_id" integer;--> statement-breakpoint
ALTER TABLE "journal_line" ADD COLUMN "department_id" integer;--> statement-breakpoint
ALTER TABLE "cost_bearer" ADD CONSTRAINT "cost_bearer_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_bearer" ADD CONSTRAINT "cost_bearer_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_bearer" ADD CONSTRAINT "cost_bearer_department_id_department_id_fk" FOREIGN KEY ("department_id") REFERENCES "public"."department"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cost_bearer" ADD CONSTRAINT "cost_bearer_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "cost_bearer_taxed" ON "cost_bearer" USING btree ("movement_id") WHERE tax_code_id is not null;--> statement-breakpoint
ALTER TABLE "reason" ADD CONSTRAINT "reason_tax_code_id_tax_code_id_fk" FOREIGN KEY ("tax_code_id") REFERENCES "public"."tax_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "journal_line" ADD CONSTRAINT "journal_line_department_id_department_id_fk" FOREIGN KEY ("department_id") REFERENCES "public"."department"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "journal_line_department" ON "journal_line" USING btree ("department_id") WHERE department_id is not null;--> statement-breakpoint
-- Tax on what the business uses itself gets an account of its own.
INSERT INTO account (code, name, type, purpose)
SELECT CASE WHEN EXISTS (SELECT 1 FROM account WHERE code = '2210') THEN '2210-U' ELSE '2210' END, 'Tax on own use', 'liability', 'own-use-tax'
WHERE EXISTS (SELECT 1 FROM account WHERE purpose = 'grni');--> statement-breakpoint
-- What bore the cost so far is what its entry says; where nothing was worth anything, what its reason says.
INSERT INTO cost_bearer (movement_id, account_id)
SELECT m.id, coalesce((SELECT j.account_id
  FROM journal_entry e
  JOIN journal_line j ON j.entry_id = e.id
  JOIN account a ON a.id = j.account_id
  WHERE e.movement_id = m.id AND j.item_id IS NULL AND a.type = 'expense'
  ORDER BY a.purpose IS NOT DISTINCT FROM 'cost-variance', abs(j.amount) DESC
  LIMIT 1), r.account_id)
FROM movement m
JOIN reason r ON r.id = m.reason_id;
