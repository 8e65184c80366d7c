-- The lines of a purchase order follow its decisions.
CREATE OR REPLACE FUNCTION activate_purchase_lines() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE document_line SET active = NEW.placed_at IS NOT NULL AND NEW.closed_at IS NULL AND NEW.cancelled_at IS NULL, site_id = NEW.site_id, brings_to_id = CASE WHEN NEW.ships_to_id IS NULL THEN NEW.site_id END
  WHERE id IN (SELECT id FROM purchase_terms WHERE order_id = NEW.id);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER purchase_order_decided AFTER UPDATE OF placed_at, closed_at, cancelled_at, site_id, ships_to_id ON purchase_order FOR EACH ROW EXECUTE FUNCTION activate_purchase_lines();
