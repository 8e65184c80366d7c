-- What is on order for a site leaves out what goes straight to a customer.
CREATE OR REPLACE FUNCTION keep_on_order() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE items integer[]; sites integer[]; changes numeric[]; none numeric[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(incoming) INTO items, sites, changes FROM added WHERE incoming <> 0;
  ELSIF TG_OP = 'DELETE' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(-incoming) INTO items, sites, changes FROM removed WHERE incoming <> 0;
  ELSE
    SELECT array_agg(item_id), array_agg(site_id), array_agg(change) INTO items, sites, changes FROM (
      SELECT item_id, site_id, id, sum(change) AS change FROM (
        SELECT item_id, site_id, id, incoming AS change FROM added UNION ALL SELECT item_id, site_id, id, -incoming FROM removed) x
      GROUP BY 1, 2, 3 HAVING sum(change) <> 0) y;
  END IF;
  IF items IS NULL THEN RETURN NULL; END IF;
  PERFORM add_to_figures(items, sites, none, changes, none);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER purchase_line_keep_on_order_insert AFTER INSERT ON purchase_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_on_order();
CREATE OR REPLACE TRIGGER purchase_line_keep_on_order_update AFTER UPDATE ON purchase_line REFERENCING OLD TABLE AS removed NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_on_order();
CREATE OR REPLACE TRIGGER purchase_line_keep_on_order_delete AFTER DELETE ON purchase_line REFERENCING OLD TABLE AS removed FOR EACH STATEMENT EXECUTE FUNCTION keep_on_order();
