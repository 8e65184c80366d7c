CREATE TABLE "bin_doubt" (
	"item_id" integer NOT NULL,
	"place_id" integer NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"person_id" integer NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	CONSTRAINT "bin_doubt_item_id_place_id_pk" PRIMARY KEY("item_id","place_id")
);
--> statement-breakpoint
CREATE TABLE "pick_round" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "pick_round_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"site_id" integer NOT NULL,
	"picker_id" integer NOT NULL,
	"started_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "round_order" (
	"round_id" integer NOT NULL,
	"order_id" integer NOT NULL,
	"site_id" integer NOT NULL,
	"slot" integer NOT NULL,
	"open" boolean DEFAULT true NOT NULL,
	CONSTRAINT "round_order_round_id_order_id_pk" PRIMARY KEY("round_id","order_id")
);
--> statement-breakpoint
ALTER TABLE "bin_doubt" ADD CONSTRAINT "bin_doubt_item_id_item_id_fk" FOREIGN KEY ("item_id") REFERENCES "public"."item"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bin_doubt" ADD CONSTRAINT "bin_doubt_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bin_doubt" ADD CONSTRAINT "bin_doubt_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pick_round" ADD CONSTRAINT "pick_round_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pick_round" ADD CONSTRAINT "pick_round_picker_id_person_id_fk" FOREIGN KEY ("picker_id") REFERENCES "public"."person"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_order" ADD CONSTRAINT "round_order_round_id_pick_round_id_fk" FOREIGN KEY ("round_id") REFERENCES "public"."pick_round"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_order" ADD CONSTRAINT "round_order_order_id_sales_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."sales_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "round_order" ADD CONSTRAINT "round_order_site_id_site_id_fk" FOREIGN KEY ("site_id") REFERENCES "public"."site"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "pick_round_open" ON "pick_round" USING btree ("picker_id") WHERE ended_at is null;--> statement-breakpoint
CREATE UNIQUE INDEX "round_order_once" ON "round_order" USING btree ("order_id","site_id") WHERE open;