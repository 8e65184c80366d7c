-- What finding looks through, for some items: every word and code that means them, in lower case.
CREATE FUNCTION refresh_findable(items integer[]) RETURNS void LANGUAGE sql AS $$
  UPDATE item i SET findable = lower(concat_ws(' ', i.sku, i.name, nullif(i.brand, ''), nullif(i.maker, ''), c.name,
    (SELECT string_agg(code, ' ' ORDER BY position) FROM barcode WHERE item_id = i.id),
    (SELECT string_agg(nullif(code, ''), ' ' ORDER BY position) FROM item_supplier WHERE item_id = i.id),
    (SELECT string_agg(value, ' ' ORDER BY attribute_id) FROM attribute_value WHERE item_id = i.id)))
  FROM item j LEFT JOIN category c ON c.id = j.category_id WHERE j.id = i.id AND i.id = ANY(items);
$$;
--> statement-breakpoint
INSERT INTO unit (code, name, step)
SELECT x.* FROM (VALUES ('case', 'case', 1::numeric), ('box', 'box', 1), ('roll', 'roll', 1), ('pallet', 'pallet', 1)) x(code, name, step)
WHERE EXISTS (SELECT 1 FROM company) ON CONFLICT (code) DO NOTHING;
--> statement-breakpoint
INSERT INTO counter (kind, prefix, next) SELECT 'own barcode', '', 1 WHERE EXISTS (SELECT 1 FROM company) ON CONFLICT (kind) DO NOTHING;
