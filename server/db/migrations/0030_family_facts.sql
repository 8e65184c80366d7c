ALTER TABLE "family" ADD COLUMN "kind" text DEFAULT 'stocked' NOT NULL;--> statement-breakpoint
ALTER TABLE "family" ADD COLUMN "maker" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "family" ADD COLUMN "inventory_account_id" integer;--> statement-breakpoint
ALTER TABLE "family" ADD COLUMN "cost_account_id" integer;--> statement-breakpoint
ALTER TABLE "family" ADD CONSTRAINT "family_inventory_account_id_account_id_fk" FOREIGN KEY ("inventory_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "family" ADD CONSTRAINT "family_cost_account_id_account_id_fk" FOREIGN KEY ("cost_account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
-- A family has what most of its members have; who has something else has it of its own.
UPDATE "family" f SET "kind" = m.kind, "maker" = m.maker, "inventory_account_id" = m.inventory, "cost_account_id" = m.cost
FROM (SELECT "family_id",
    mode() WITHIN GROUP (ORDER BY "kind") AS kind,
    mode() WITHIN GROUP (ORDER BY "maker") AS maker,
    CASE WHEN count(DISTINCT coalesce("inventory_account_id", 0)) = 1 THEN min("inventory_account_id") END AS inventory,
    CASE WHEN count(DISTINCT coalesce("cost_account_id", 0)) = 1 THEN min("cost_account_id") END AS cost
  FROM "item" WHERE "family_id" IS NOT NULL GROUP BY "family_id") m
WHERE m."family_id" = f."id";--> statement-breakpoint
UPDATE "item" i SET "own_facts" = i."own_facts" || array_remove(ARRAY[
    CASE WHEN i."kind" IS DISTINCT FROM f."kind" THEN 'kind' END,
    CASE WHEN i."maker" IS DISTINCT FROM f."maker" THEN 'maker' END,
    CASE WHEN i."inventory_account_id" IS DISTINCT FROM f."inventory_account_id" THEN 'inventoryAccountId' END,
    CASE WHEN i."cost_account_id" IS DISTINCT FROM f."cost_account_id" THEN 'costAccountId' END], NULL)
FROM "family" f WHERE f."id" = i."family_id";
