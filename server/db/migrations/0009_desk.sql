CREATE TABLE "desk_tally" (
	"person_id" integer PRIMARY KEY NOT NULL,
	"tally" jsonb NOT NULL,
	"done" text[] DEFAULT '{}' NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "desk_tally" ADD CONSTRAINT "desk_tally_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "cancelled" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase_line" ADD CONSTRAINT "purchase_line_cancelled" CHECK ("cancelled" >= 0 AND "cancelled" <= "base_quantity");--> statement-breakpoint
ALTER TABLE "purchase_line" DROP COLUMN "outstanding";--> statement-breakpoint
ALTER TABLE "purchase_line" ADD COLUMN "outstanding" numeric(18, 4) GENERATED ALWAYS AS (case when active then greatest(base_quantity - cancelled - received, 0) else 0 end) STORED;--> statement-breakpoint
CREATE INDEX "purchase_line_open" ON "purchase_line" USING btree ("item_id","site_id") WHERE outstanding > 0;
