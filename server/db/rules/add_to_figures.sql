-- What is reserved, on order and short, per item and site and per item, follows the document lines; so does what is to come from other sites, which is no more in all.
DROP FUNCTION IF EXISTS add_to_figures(integer[], integer[], numeric[], numeric[], numeric[]);
CREATE OR REPLACE FUNCTION add_to_figures(items integer[], sites integer[], more_reserved numeric[], more_on_order numeric[], more_coming numeric[], more_short numeric[]) RETURNS void LANGUAGE plpgsql AS $$
BEGIN
  WITH net AS MATERIALIZED (
    SELECT item, site, coalesce(sum(r), 0) AS reserved, coalesce(sum(o), 0) AS on_order, coalesce(sum(c), 0) AS coming, coalesce(sum(s), 0) AS short
    FROM unnest(items, sites, more_reserved, more_on_order, more_coming, more_short) x(item, site, r, o, c, s) GROUP BY 1, 2
  ), moved AS (
    UPDATE item_site f SET reserved = f.reserved + net.reserved, on_order = f.on_order + net.on_order, coming = f.coming + net.coming, short = f.short + net.short FROM net
    WHERE f.item_id = net.item AND f.site_id = net.site RETURNING f.item_id, f.site_id
  )
  INSERT INTO item_site (item_id, site_id, reserved, on_order, coming, short)
  SELECT item, site, reserved, on_order, coming, short FROM net WHERE NOT EXISTS (SELECT 1 FROM moved WHERE moved.item_id = net.item AND moved.site_id = net.site);
  UPDATE pool SET reserved = pool.reserved + net.reserved, on_order = pool.on_order + net.on_order, short = pool.short + net.short
  FROM (SELECT item, coalesce(sum(r), 0) AS reserved, coalesce(sum(o), 0) AS on_order, coalesce(sum(s), 0) AS short
    FROM unnest(items, more_reserved, more_on_order, more_short) x(item, r, o, s) GROUP BY 1) net WHERE pool.item_id = net.item;
END $$;
