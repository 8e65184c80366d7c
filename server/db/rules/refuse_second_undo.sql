-- A movement is undone once, and an undo is not undone.
CREATE OR REPLACE FUNCTION refuse_second_undo() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM movement WHERE id = NEW.reverses AND reverses IS NOT NULL) THEN
    RAISE EXCEPTION 'an undo cannot be undone' USING ERRCODE = 'integrity_constraint_violation';
  END IF;
  RETURN NEW;
END $$;

CREATE OR REPLACE TRIGGER movement_undone_once BEFORE INSERT ON movement FOR EACH ROW WHEN (NEW.reverses IS NOT NULL) EXECUTE FUNCTION refuse_second_undo();
