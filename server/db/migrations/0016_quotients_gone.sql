ALTER TABLE "cost_change" DROP COLUMN "share";--> statement-breakpoint
ALTER TABLE "pool" DROP COLUMN "last_unit_cost";--> statement-breakpoint
ALTER TABLE "landed_share" DROP COLUMN "share";