INSERT INTO unit (code, name, step)
SELECT x.* FROM (VALUES ('case', 'case', 1::numeric), ('box', 'box', 1), ('roll', 'roll', 1), ('pallet', 'pallet', 1)) x(code, name, step)
WHERE EXISTS (SELECT 1 FROM company) ON CONFLICT (code) DO NOTHING;
--> statement-breakpoint
INSERT INTO counter (kind, prefix, next) SELECT 'own barcode', '', 1 WHERE EXISTS (SELECT 1 FROM company) ON CONFLICT (kind) DO NOTHING;
