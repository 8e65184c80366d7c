CREATE TABLE "delivered" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "delivered_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"message_id" text NOT NULL,
	"recipients" text[] NOT NULL,
	"raw" "bytea" NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "letter" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "letter_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"purchase_order_id" integer,
	"message_id" text NOT NULL,
	"sender" text NOT NULL,
	"recipient" text NOT NULL,
	"subject" text NOT NULL,
	"body" text NOT NULL,
	"attached" text[] NOT NULL,
	"raw" "bytea" NOT NULL,
	"written_at" timestamp with time zone NOT NULL,
	"written_by" integer NOT NULL,
	"sent_at" timestamp with time zone,
	"tries" integer DEFAULT 0 NOT NULL,
	"next_try_at" timestamp with time zone,
	"fault" text DEFAULT '' NOT NULL,
	CONSTRAINT "letter_message_id_unique" UNIQUE("message_id")
);
--> statement-breakpoint
CREATE TABLE "letter_template" (
	"kind" text PRIMARY KEY NOT NULL,
	"subject" text NOT NULL,
	"text" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "letter" ADD CONSTRAINT "letter_purchase_order_id_purchase_order_id_fk" FOREIGN KEY ("purchase_order_id") REFERENCES "public"."purchase_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letter" ADD CONSTRAINT "letter_written_by_person_id_fk" FOREIGN KEY ("written_by") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "letter_order" ON "letter" USING btree ("purchase_order_id");--> statement-breakpoint
CREATE INDEX "letter_waiting" ON "letter" USING btree ("sent_at","next_try_at");