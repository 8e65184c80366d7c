ALTER TABLE "company" ADD COLUMN "repaired" integer DEFAULT 0 NOT NULL;
--> statement-breakpoint
INSERT INTO place (kind, code, owned) SELECT 'relabel', 'Relabelled', false WHERE EXISTS (SELECT 1 FROM company) AND NOT EXISTS (SELECT 1 FROM place WHERE kind = 'relabel' AND site_id IS NULL);
