ALTER TABLE "document_line" ALTER COLUMN "incoming" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "document_line" ALTER COLUMN "wanted" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "document_line" ALTER COLUMN "short" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "item_site" ALTER COLUMN "free" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "pool" ALTER COLUMN "unit_cost" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "pool" ALTER COLUMN "free" SET NOT NULL;