CREATE TABLE "line_settlement" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "line_settlement_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"purchase_line_id" integer NOT NULL,
	"received" numeric(18, 2) DEFAULT '0' NOT NULL,
	"billed" numeric(18, 2) DEFAULT '0' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "bill_line" ADD COLUMN "cumulative" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "line_settlement" ADD CONSTRAINT "line_settlement_purchase_line_id_purchase_line_id_fk" FOREIGN KEY ("purchase_line_id") REFERENCES "public"."purchase_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "line_settlement_line" ON "line_settlement" USING btree ("purchase_line_id");
--> statement-breakpoint
UPDATE bill_line SET cumulative = false;
