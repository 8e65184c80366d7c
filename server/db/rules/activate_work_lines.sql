-- The lines of a work order follow its decisions.
CREATE OR REPLACE FUNCTION activate_work_lines() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  UPDATE document_line SET active = NEW.released_at IS NOT NULL AND NEW.ended_at IS NULL AND NEW.cancelled_at IS NULL
  WHERE id IN (SELECT id FROM component_terms WHERE work_order_id = NEW.id UNION ALL SELECT id FROM product_terms WHERE work_order_id = NEW.id);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER work_order_decided AFTER UPDATE OF released_at, ended_at, cancelled_at ON work_order FOR EACH ROW EXECUTE FUNCTION activate_work_lines();
