-- What finding looks through, for some items: every word and code that means them, in lower case.
CREATE OR REPLACE FUNCTION refresh_findable(items integer[]) RETURNS void LANGUAGE sql AS $$
  UPDATE item i SET findable = lower(concat_ws(' ', i.sku, i.name, nullif(i.brand, ''), nullif(i.maker, ''), c.name,
    (SELECT string_agg(code, ' ' ORDER BY position) FROM barcode WHERE item_id = i.id),
    (SELECT string_agg(nullif(code, ''), ' ' ORDER BY position) FROM item_supplier WHERE item_id = i.id),
    (SELECT string_agg(value, ' ' ORDER BY attribute_id) FROM attribute_value WHERE item_id = i.id)))
  FROM item j LEFT JOIN category c ON c.id = j.category_id WHERE j.id = i.id AND i.id = ANY(items);
  INSERT INTO word SELECT DISTINCT w FROM item, regexp_split_to_table(findable, '[\s,;()/]+') w
  WHERE id = ANY(items) AND length(w) BETWEEN 3 AND 40 AND w !~ '^[[:digit:][:punct:]]+$' ORDER BY w ON CONFLICT DO NOTHING;
$$;
