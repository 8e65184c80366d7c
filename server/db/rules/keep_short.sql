-- What is short for a site follows the lines of sales.
CREATE OR REPLACE FUNCTION keep_short() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE items integer[]; sites integer[]; lines integer[]; changes numeric[]; none numeric[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(id), array_agg(short) INTO items, sites, lines, changes FROM added WHERE short <> 0;
  ELSIF TG_OP = 'DELETE' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(id), array_agg(-short) INTO items, sites, lines, changes FROM removed WHERE short <> 0;
  ELSE
    SELECT array_agg(item_id), array_agg(site_id), array_agg(line), array_agg(change) INTO items, sites, lines, changes FROM (
      SELECT item_id, site_id, line, sum(change) AS change FROM (
        SELECT item_id, site_id, id AS line, short AS change FROM added UNION ALL SELECT item_id, site_id, id, -short FROM removed) x
      GROUP BY 1, 2, 3 HAVING sum(change) <> 0) y;
  END IF;
  IF items IS NULL THEN RETURN NULL; END IF;
  PERFORM add_to_figures(items, sites, none, none, changes);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER sales_line_keep_short_insert AFTER INSERT ON sales_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_short();
CREATE OR REPLACE TRIGGER sales_line_keep_short_update AFTER UPDATE ON sales_line REFERENCING OLD TABLE AS removed NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_short();
CREATE OR REPLACE TRIGGER sales_line_keep_short_delete AFTER DELETE ON sales_line REFERENCING OLD TABLE AS removed FOR EACH STATEMENT EXECUTE FUNCTION keep_short();
