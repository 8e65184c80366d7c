CREATE TABLE "alert" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "alert_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"person_id" integer NOT NULL,
	"kind" text NOT NULL,
	"subject" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"site_id" integer,
	"text" text NOT NULL,
	"leads_to" text NOT NULL,
	"letter_id" integer,
	CONSTRAINT "alert_once" UNIQUE("person_id","kind","subject","since")
);
--> statement-breakpoint
CREATE TABLE "alert_person" (
	"person_id" integer PRIMARY KEY NOT NULL,
	"round_up_at" text DEFAULT '07:30' NOT NULL,
	"rounded_up_on" date,
	"seen_id" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "alert_state" (
	"kind" text NOT NULL,
	"subject" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"site_id" integer,
	"category_id" integer,
	"text" text NOT NULL,
	"leads_to" text NOT NULL,
	CONSTRAINT "alert_state_kind_subject_pk" PRIMARY KEY("kind","subject")
);
--> statement-breakpoint
CREATE TABLE "alert_wish" (
	"person_id" integer NOT NULL,
	"kind" text NOT NULL,
	"site_ids" integer[],
	"category_ids" integer[],
	"how" text NOT NULL,
	"by_mail" boolean DEFAULT false NOT NULL,
	CONSTRAINT "alert_wish_person_id_kind_pk" PRIMARY KEY("person_id","kind"),
	CONSTRAINT "alert_wish_how" CHECK ("alert_wish"."how" in ('at once', 'round-up'))
);
--> statement-breakpoint
ALTER TABLE "alert" ADD CONSTRAINT "alert_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert" ADD CONSTRAINT "alert_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert" ADD CONSTRAINT "alert_letter_id_letter_id_fk" FOREIGN KEY ("letter_id") REFERENCES "public"."letter"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert_person" ADD CONSTRAINT "alert_person_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert_state" ADD CONSTRAINT "alert_state_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "alert_wish" ADD CONSTRAINT "alert_wish_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "alert_person_id" ON "alert" USING btree ("person_id","id");