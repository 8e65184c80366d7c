CREATE TABLE "loan" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "loan_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"number" text NOT NULL,
	"holder_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"lent_on" date NOT NULL,
	"due_on" date,
	"note" text DEFAULT '' NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "loan_number_unique" UNIQUE("number")
);
--> statement-breakpoint
CREATE TABLE "loan_back" (
	"movement_id" integer NOT NULL,
	"line_id" integer NOT NULL,
	"condition" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	CONSTRAINT "loan_back_movement_id_line_id_pk" PRIMARY KEY("movement_id","line_id")
);
--> statement-breakpoint
CREATE TABLE "loan_terms" (
	"id" integer PRIMARY KEY NOT NULL,
	"loan_id" integer NOT NULL,
	"lot_id" integer,
	"from_bin_id" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reminded" (
	"what" text NOT NULL,
	"day" date NOT NULL,
	"person_id" integer NOT NULL,
	"letter_id" integer,
	CONSTRAINT "reminded_what_day_person_id_pk" PRIMARY KEY("what","day","person_id")
);
--> statement-breakpoint
CREATE TABLE "reminder" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "reminder_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"about" text NOT NULL,
	"loan_id" integer,
	"item_id" integer,
	"lot_id" integer,
	"attribute_id" integer,
	"days" smallint NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"created_by" integer NOT NULL,
	CONSTRAINT "reminder_subject" CHECK (num_nonnulls("reminder"."loan_id", "reminder"."item_id", "reminder"."lot_id") = 1 and ("reminder"."about" = 'loan') = ("reminder"."loan_id" is not null)),
	CONSTRAINT "reminder_attribute" CHECK (("reminder"."about" = 'attribute') = ("reminder"."attribute_id" is not null))
);
--> statement-breakpoint
CREATE TABLE "reminder_to" (
	"reminder_id" integer NOT NULL,
	"person_id" integer,
	"role_id" integer,
	CONSTRAINT "reminder_to_once" UNIQUE NULLS NOT DISTINCT("reminder_id","person_id","role_id"),
	CONSTRAINT "reminder_to_somebody" CHECK (num_nonnulls("reminder_to"."person_id", "reminder_to"."role_id") = 1)
);
--> statement-breakpoint
DROP INDEX "place_party";--> statement-breakpoint
ALTER TABLE "letter" ALTER COLUMN "written_by" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "calendar_secret" text;--> statement-breakpoint
ALTER TABLE "party" ADD COLUMN "holder_sort" text;--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "leads_to" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "for_id" integer;--> statement-breakpoint
ALTER TABLE "loan" ADD CONSTRAINT "loan_holder_id_party_id_fk" FOREIGN KEY ("holder_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loan" ADD CONSTRAINT "loan_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loan" ADD CONSTRAINT "loan_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loan_back" ADD CONSTRAINT "loan_back_movement_id_movement_id_fk" FOREIGN KEY ("movement_id") REFERENCES "public"."movement"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loan_back" ADD CONSTRAINT "loan_back_line_id_document_line_id_fk" FOREIGN KEY ("line_id") REFERENCES "public"."document_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loan_terms" ADD CONSTRAINT "loan_terms_id_document_line_id_fk" FOREIGN KEY ("id") REFERENCES "public"."document_line"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loan_terms" ADD CONSTRAINT "loan_terms_loan_id_loan_id_fk" FOREIGN KEY ("loan_id") REFERENCES "public"."loan"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loan_terms" ADD CONSTRAINT "loan_terms_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loan_terms" ADD CONSTRAINT "loan_terms_from_bin_id_place_id_fk" FOREIGN KEY ("from_bin_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminded" ADD CONSTRAINT "reminded_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminded" ADD CONSTRAINT "reminded_letter_id_letter_id_fk" FOREIGN KEY ("letter_id") REFERENCES "public"."letter"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminder" ADD CONSTRAINT "reminder_loan_id_loan_id_fk" FOREIGN KEY ("loan_id") REFERENCES "public"."loan"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminder" ADD CONSTRAINT "reminder_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminder" ADD CONSTRAINT "reminder_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminder" ADD CONSTRAINT "reminder_attribute_id_attribute_id_fk" FOREIGN KEY ("attribute_id") REFERENCES "public"."attribute"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminder" ADD CONSTRAINT "reminder_created_by_person_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminder_to" ADD CONSTRAINT "reminder_to_reminder_id_reminder_id_fk" FOREIGN KEY ("reminder_id") REFERENCES "public"."reminder"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminder_to" ADD CONSTRAINT "reminder_to_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reminder_to" ADD CONSTRAINT "reminder_to_role_id_role_id_fk" FOREIGN KEY ("role_id") REFERENCES "public"."role"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "loan_holder" ON "loan" USING btree ("holder_id");--> statement-breakpoint
CREATE INDEX "loan_due" ON "loan" USING btree ("due_on");--> statement-breakpoint
CREATE INDEX "loan_terms_loan" ON "loan_terms" USING btree ("loan_id");--> statement-breakpoint
CREATE INDEX "reminder_loan" ON "reminder" USING btree ("loan_id");--> statement-breakpoint
CREATE INDEX "reminder_item" ON "reminder" USING btree ("item_id");--> statement-breakpoint
CREATE INDEX "reminder_lot" ON "reminder" USING btree ("lot_id");--> statement-breakpoint
ALTER TABLE "letter" ADD CONSTRAINT "letter_for_id_person_id_fk" FOREIGN KEY ("for_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "place_party" ON "place" USING btree ("kind","party_id",coalesce("site_id", 0)) WHERE party_id is not null;--> statement-breakpoint
ALTER TABLE "person" ADD CONSTRAINT "person_calendar_secret_unique" UNIQUE("calendar_secret");
--> statement-breakpoint
INSERT INTO counter (kind, prefix, next)
SELECT 'loan', 'LN-', 1001
WHERE EXISTS (SELECT 1 FROM counter WHERE kind = 'transfer');--> statement-breakpoint
INSERT INTO reason (code, name, place, account_id)
SELECT 'lost-on-loan', 'Lost on loan', 'found-or-lost', id
FROM account
WHERE purpose = 'stock-differences' AND NOT EXISTS (SELECT 1 FROM reason WHERE code = 'lost-on-loan' OR lower(name) = 'lost on loan');--> statement-breakpoint
-- Whoever corrects stock lends it, too.
UPDATE role SET rights = array_append(rights, 'stock.lend') WHERE 'stock.correct' = ANY (rights) AND NOT 'stock.lend' = ANY (rights);
