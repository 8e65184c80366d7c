-- Every item has its pool.
CREATE OR REPLACE FUNCTION give_pool() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO pool (item_id) VALUES (NEW.id);
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER item_has_pool AFTER INSERT ON item FOR EACH ROW EXECUTE FUNCTION give_pool();
