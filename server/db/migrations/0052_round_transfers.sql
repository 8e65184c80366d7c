ALTER TABLE "round_order" DROP CONSTRAINT "round_order_round_id_order_id_pk";--> statement-breakpoint
ALTER TABLE "round_order" ALTER COLUMN "order_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "round_order" ADD CONSTRAINT "round_order_round_id_slot_pk" PRIMARY KEY("round_id","slot");--> statement-breakpoint
ALTER TABLE "round_order" ADD COLUMN "transfer_id" integer;--> statement-breakpoint
ALTER TABLE "round_order" ADD CONSTRAINT "round_order_transfer_id_transfer_id_fk" FOREIGN KEY ("transfer_id") REFERENCES "public"."transfer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "round_transfer_once" ON "round_order" USING btree ("transfer_id") WHERE open;--> statement-breakpoint
ALTER TABLE "round_order" ADD CONSTRAINT "round_order_one" CHECK (num_nonnulls("round_order"."order_id", "round_order"."transfer_id") = 1);