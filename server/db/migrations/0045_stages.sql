ALTER TABLE "pool" ADD COLUMN "in_transit" numeric(18, 4) DEFAULT '0' NOT NULL;--> statement-breakpoint
CREATE INDEX "document_line_unfinished" ON "document_line" USING btree ("id") WHERE kind = 'sales' and active and finished < base_quantity - cancelled;--> statement-breakpoint
CREATE INDEX "document_line_straight" ON "document_line" USING btree ("id") WHERE direct > 0;--> statement-breakpoint
CREATE INDEX "pool_in_transit" ON "pool" USING btree ("in_transit","item_id");--> statement-breakpoint
CREATE INDEX "item_site_in_transit" ON "item_site" USING btree ("site_id","in_transit","item_id");