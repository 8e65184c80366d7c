ALTER TABLE "party" ADD COLUMN "sales_currency" text;--> statement-breakpoint
ALTER TABLE "party" ADD COLUMN "credit_limit" numeric(18, 2);--> statement-breakpoint
-- Whoever may give reserved stock away may also go beyond a credit limit.
UPDATE role SET rights = array_append(rights, 'outbound.over-limit') WHERE 'outbound.hold' = ANY (rights);
