-- What went back of an order line, and what of that is not expected again.
CREATE OR REPLACE FUNCTION keep_returned() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE document_line d SET returned = d.returned + net.quantity, cancelled = d.cancelled + net.called_off
  FROM (SELECT l.supply_line_id AS id, sum(a.quantity) AS quantity, sum(a.called_off) AS called_off FROM added a JOIN movement_line l ON l.id = a.line_id GROUP BY 1) net WHERE net.id = d.id;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER goods_returned_kept AFTER INSERT ON goods_returned REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_returned();
