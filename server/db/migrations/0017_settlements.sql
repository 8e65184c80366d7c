CREATE TABLE "line_settlement" (
	"id" integer PRIMARY KEY GENERATED ALWAYS AS IDENTITY (sequence name "line_settlement_id_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 1 CACHE 1),
	"purchase_line_id" integer NOT NULL,
	"received" numeric(18, 2) DEFAULT '0' NOT NULL,
	"billed" numeric(18, 2) DEFAULT '0' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "bill_line" ADD COLUMN "cumulative" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "line_settlement" ADD CONSTRAINT "line_settlement_purchase_line_id_purchase_line_id_fk" FOREIGN KEY ("purchase_line_id") REFERENCES "public"."purchase_line"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "line_settlement_line" ON "line_settlement" USING btree ("purchase_line_id");
--> statement-breakpoint
UPDATE bill_line SET cumulative = false;
--> statement-breakpoint
CREATE TRIGGER line_settlement_only_grows BEFORE UPDATE OR DELETE ON line_settlement FOR EACH ROW EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER line_settlement_never_truncated BEFORE TRUNCATE ON line_settlement FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE FUNCTION keep_settled() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE purchase_line d SET received_value = d.received_value + net.received, billed_value = d.billed_value + net.billed
  FROM (SELECT purchase_line_id AS id, sum(received) AS received, sum(billed) AS billed FROM added GROUP BY 1) net WHERE net.id = d.id;
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER line_settlement_kept AFTER INSERT ON line_settlement REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_settled();
