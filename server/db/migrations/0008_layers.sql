CREATE TABLE "cost_layer" (
	"item_id" integer NOT NULL,
	"seq" bigint NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"value" numeric(18, 2) NOT NULL,
	CONSTRAINT "cost_layer_key" UNIQUE("item_id","seq"),
	CONSTRAINT "cost_layer_not_negative" CHECK ("cost_layer"."quantity" >= 0 and "cost_layer"."value" >= 0 and ("cost_layer"."quantity" > 0 or "cost_layer"."value" = 0))
);
--> statement-breakpoint
CREATE TABLE "layer_line" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "layer_line_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"item_id" integer NOT NULL,
	"layer_seq" bigint NOT NULL,
	"seq" bigint NOT NULL,
	"quantity" numeric(18, 4) NOT NULL,
	"value" numeric(18, 2) NOT NULL,
	CONSTRAINT "layer_line_key" UNIQUE("item_id","seq","layer_seq")
);
--> statement-breakpoint
ALTER TABLE "cost_layer" ADD CONSTRAINT "cost_layer_made_by" FOREIGN KEY ("item_id","seq") REFERENCES "public"."movement_line"("item_id","seq") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "layer_line" ADD CONSTRAINT "layer_line_made_by" FOREIGN KEY ("item_id","layer_seq") REFERENCES "public"."movement_line"("item_id","seq") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "layer_line" ADD CONSTRAINT "layer_line_of" FOREIGN KEY ("item_id","seq") REFERENCES "public"."movement_line"("item_id","seq") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX cost_layer_open ON cost_layer (item_id, seq) WHERE quantity > 0;
--> statement-breakpoint
ALTER TABLE item ADD CONSTRAINT item_cost_method CHECK (cost_method IN ('average', 'fifo', 'specific') AND (cost_method <> 'specific' OR tracking = 'serial'));
