ALTER TABLE "tax_code" ADD COLUMN "retired_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "unit" ADD COLUMN "retired_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "category" ADD COLUMN "retired_at" timestamp with time zone;