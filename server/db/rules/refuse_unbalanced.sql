-- Every entry balances: its lines are written in one statement and add up to zero.
CREATE OR REPLACE FUNCTION refuse_unbalanced() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF EXISTS (SELECT 1 FROM added GROUP BY entry_id HAVING sum(amount) <> 0) THEN
    RAISE EXCEPTION 'a journal entry does not balance' USING ERRCODE = 'check_violation';
  END IF;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER journal_line_balances AFTER INSERT ON journal_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION refuse_unbalanced();
