ALTER TABLE "document_line" DROP CONSTRAINT "document_line_reserved";--> statement-breakpoint
ALTER TABLE "supply" DROP CONSTRAINT "supply_source";--> statement-breakpoint
ALTER TABLE "supply" DROP CONSTRAINT "supply_positive";--> statement-breakpoint
ALTER TABLE "supply" DROP CONSTRAINT "supply_from_site_id_site_id_fk";--> statement-breakpoint
ALTER TABLE "document_line" ADD COLUMN "direct" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "document_line" ADD COLUMN "sent" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
ALTER TABLE "document_line" drop column "wanted";--> statement-breakpoint
ALTER TABLE "document_line" ADD COLUMN "wanted" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept and draws then base_quantity - cancelled - direct - (drawn - sent) else 0 end) STORED NOT NULL;--> statement-breakpoint
-- The index went with the column.
CREATE INDEX "document_line_wanted" ON "document_line" USING btree ("item_id","site_id") WHERE wanted > 0;--> statement-breakpoint
ALTER TABLE "document_line" drop column "short";--> statement-breakpoint
ALTER TABLE "document_line" ADD COLUMN "short" numeric(18, 4) GENERATED ALWAYS AS (case when active and kept and draws then base_quantity - cancelled - direct - (drawn - sent) - reserved else 0 end) STORED NOT NULL;--> statement-breakpoint
ALTER TABLE "supply" ALTER COLUMN "purchase_line_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase_order" ADD COLUMN "ship_to" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "supply" ADD CONSTRAINT "supply_purchase_line_id_purchase_terms_id_fk" FOREIGN KEY ("purchase_line_id") REFERENCES "public"."purchase_terms"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "supply_sales_line" ON "supply" USING btree ("sales_line_id");--> statement-breakpoint
ALTER TABLE "supply" DROP COLUMN "source";--> statement-breakpoint
ALTER TABLE "supply" DROP COLUMN "from_site_id";--> statement-breakpoint
ALTER TABLE "supply" DROP COLUMN "promised_on";--> statement-breakpoint
ALTER TABLE "supply" ADD CONSTRAINT "supply_purchase_line_id_unique" UNIQUE("purchase_line_id");--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_direct" CHECK ("document_line"."sent" >= 0 and "document_line"."sent" <= "document_line"."direct" and "document_line"."direct" + "document_line"."drawn" - "document_line"."sent" <= "document_line"."base_quantity");--> statement-breakpoint
ALTER TABLE "document_line" ADD CONSTRAINT "document_line_reserved" CHECK ("document_line"."reserved" >= 0 and ("document_line"."reserved" = 0 or ("document_line"."active" and "document_line"."reserved" <= "document_line"."base_quantity" - "document_line"."cancelled" - "document_line"."direct" - ("document_line"."drawn" - "document_line"."sent"))));--> statement-breakpoint
ALTER TABLE "supply" ADD CONSTRAINT "supply_not_negative" CHECK ("supply"."quantity" >= 0);
