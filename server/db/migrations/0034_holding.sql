ALTER TABLE "document_line" ADD COLUMN "stands_back" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "reservation" ADD COLUMN "served_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "sales_order" ADD COLUMN "whole" boolean DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX "reservation_served" ON "reservation" USING btree ("served_at") WHERE served_at is not null;--> statement-breakpoint
CREATE INDEX "sales_order_customer" ON "sales_order" USING btree ("customer_id");--> statement-breakpoint
-- Giving what is reserved to another order is a right of its own: of whoever both sells and orders.
UPDATE role SET rights = array_append(rights, 'outbound.hold') WHERE NOT 'outbound.hold' = ANY(rights) AND rights @> ARRAY['outbound.sell', 'inbound.order'];
