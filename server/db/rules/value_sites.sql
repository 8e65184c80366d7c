-- What sites have of these items is worth as much as their part of the pool says.
CREATE OR REPLACE FUNCTION value_sites(items integer[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  UPDATE item_site s SET value = v.value FROM site_value v
  WHERE s.item_id = ANY(items) AND v.item_id = ANY(items) AND v.item_id = s.item_id AND v.site_id = s.site_id AND s.value <> v.value;
END $$;
