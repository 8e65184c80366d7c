ALTER TABLE "letter" ADD COLUMN "lot_id" integer;--> statement-breakpoint
ALTER TABLE "letter" ADD COLUMN "party_id" integer;--> statement-breakpoint
ALTER TABLE "letter" ADD CONSTRAINT "letter_lot_id_lot_id_fk" FOREIGN KEY ("lot_id") REFERENCES "public"."lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "letter" ADD CONSTRAINT "letter_party_id_party_id_fk" FOREIGN KEY ("party_id") REFERENCES "public"."party"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "letter_lot" ON "letter" USING btree ("lot_id");