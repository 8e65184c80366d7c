ALTER TABLE "change" ADD COLUMN "cost" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "change" SET "cost" = true WHERE "kind" = 'purchase order' AND "field" LIKE '% price';
