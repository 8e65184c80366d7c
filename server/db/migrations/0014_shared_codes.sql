-- A code may be on several items; a scan then asks which is meant.
ALTER TABLE "barcode" DROP CONSTRAINT "barcode_pkey";--> statement-breakpoint
DROP INDEX "barcode_item";--> statement-breakpoint
ALTER TABLE "barcode" ADD CONSTRAINT "barcode_item_id_code_pk" PRIMARY KEY("item_id","code");--> statement-breakpoint
CREATE INDEX "barcode_code" ON "barcode" USING btree ("code");
