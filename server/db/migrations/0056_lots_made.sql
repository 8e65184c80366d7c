ALTER TABLE "company" ADD COLUMN "lot_pattern" text DEFAULT '{order}-{n}' NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "shelf_life_days" integer;--> statement-breakpoint
ALTER TABLE "item" ADD COLUMN "inspected" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "item" ADD CONSTRAINT "item_shelf_life" CHECK ("item"."shelf_life_days" between 0 and 36500);