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
--> statement-breakpoint
CREATE TRIGGER layer_line_only_grows BEFORE UPDATE OR DELETE ON layer_line FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER layer_line_never_truncated BEFORE TRUNCATE ON layer_line FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
-- What is left of each layer: its lines, and the changes of cost that fell on it.
CREATE FUNCTION keep_layers() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE cost_layer c SET quantity = c.quantity + net.quantity, value = c.value + net.value
  FROM (SELECT item_id, layer_seq, sum(quantity) AS quantity, sum(value) AS value FROM added GROUP BY 1, 2) net WHERE c.item_id = net.item_id AND c.seq = net.layer_seq;
  INSERT INTO cost_layer (item_id, seq, quantity, value)
  SELECT a.item_id, a.layer_seq, sum(a.quantity), sum(a.value) FROM added a
  WHERE NOT EXISTS (SELECT 1 FROM cost_layer c WHERE c.item_id = a.item_id AND c.seq = a.layer_seq) GROUP BY 1, 2;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER layer_line_keeps_layers AFTER INSERT ON layer_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_layers();
--> statement-breakpoint
CREATE FUNCTION keep_layer_value() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE cost_layer c SET value = c.value + net.amount
  FROM (SELECT l.item_id, l.seq, sum(a.amount) AS amount FROM added a JOIN movement_line l ON l.id = a.movement_line_id GROUP BY 1, 2) net WHERE c.item_id = net.item_id AND c.seq = net.seq;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER cost_change_keeps_layer AFTER INSERT ON cost_change REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_layer_value();
