-- The lines of a sales order follow its decisions.
CREATE OR REPLACE FUNCTION activate_sales_lines() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE document_line SET active = NEW.confirmed_at IS NOT NULL AND NEW.closed_at IS NULL AND NEW.cancelled_at IS NULL
  WHERE id IN (SELECT id FROM sales_terms WHERE order_id = NEW.id);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER sales_order_decided AFTER UPDATE OF confirmed_at, closed_at, cancelled_at ON sales_order FOR EACH ROW EXECUTE FUNCTION activate_sales_lines();
