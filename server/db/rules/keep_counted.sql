-- When an item was last counted, in any bin of a site and anywhere, follows the counts.
CREATE OR REPLACE FUNCTION keep_counted() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO item_site AS s (item_id, site_id, counted_on)
  SELECT c.item_id, p.site_id, max(c.counted_on) FROM added c JOIN place p ON p.id = c.place_id GROUP BY 1, 2 ORDER BY 1, 2
  ON CONFLICT ON CONSTRAINT item_site_key DO UPDATE SET counted_on = greatest(s.counted_on, excluded.counted_on);
  UPDATE pool SET counted_on = greatest(pool.counted_on, net.counted_on)
  FROM (SELECT item_id, max(counted_on) AS counted_on FROM added GROUP BY 1) net WHERE pool.item_id = net.item_id;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER bin_count_keeps_counted AFTER INSERT ON bin_count REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_counted();
