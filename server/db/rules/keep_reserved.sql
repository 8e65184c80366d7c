-- What is reserved for a document line, and at its site, follows the reservations.
CREATE OR REPLACE FUNCTION keep_reserved() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE items integer[]; sites integer[]; lines integer[]; changes numeric[]; none numeric[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(line_id), array_agg(quantity) INTO items, sites, lines, changes FROM added WHERE quantity <> 0;
  ELSIF TG_OP = 'DELETE' THEN
    SELECT array_agg(item_id), array_agg(site_id), array_agg(line_id), array_agg(-quantity) INTO items, sites, lines, changes FROM removed WHERE quantity <> 0;
  ELSE
    SELECT array_agg(item_id), array_agg(site_id), array_agg(line), array_agg(change) INTO items, sites, lines, changes FROM (
      SELECT item_id, site_id, line, sum(change) AS change FROM (
        SELECT item_id, site_id, line_id AS line, quantity AS change FROM added UNION ALL SELECT item_id, site_id, line_id, -quantity FROM removed) x
      GROUP BY 1, 2, 3 HAVING sum(change) <> 0) y;
  END IF;
  IF items IS NULL THEN RETURN NULL; END IF;
  UPDATE document_line SET reserved = reserved + x.change FROM (SELECT line, sum(change) AS change FROM unnest(lines, changes) u(line, change) GROUP BY 1) x WHERE document_line.id = x.line;
  PERFORM add_to_figures(items, sites, changes, none, none, none);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER reservation_keep_reserved_insert AFTER INSERT ON reservation REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_reserved();
CREATE OR REPLACE TRIGGER reservation_keep_reserved_update AFTER UPDATE ON reservation REFERENCING OLD TABLE AS removed NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_reserved();
CREATE OR REPLACE TRIGGER reservation_keep_reserved_delete AFTER DELETE ON reservation REFERENCING OLD TABLE AS removed FOR EACH STATEMENT EXECUTE FUNCTION keep_reserved();
