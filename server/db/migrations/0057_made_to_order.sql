ALTER TABLE "item" ADD COLUMN "made_to_order" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "work_order" ADD COLUMN "follows_sale" boolean DEFAULT false NOT NULL;