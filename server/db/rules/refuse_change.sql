-- What only grows: its rows are never updated, deleted or truncated, whoever asks.
CREATE OR REPLACE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% only grows: rows are never updated, deleted or truncated', TG_TABLE_NAME USING ERRCODE = 'integrity_constraint_violation';
END $$;

DO $$
DECLARE name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['movement', 'movement_line', 'cost_bearer', 'count_entry', 'cost_change', 'journal_entry', 'journal_line', 'layer_line', 'goods_returned', 'came_back', 'line_settlement', 'change', 'work_record', 'work_amount'] LOOP
    EXECUTE format('CREATE OR REPLACE TRIGGER %I BEFORE UPDATE OR DELETE ON %I FOR EACH ROW EXECUTE FUNCTION refuse_change()', name || '_only_grows', name);
    EXECUTE format('CREATE OR REPLACE TRIGGER %I BEFORE TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name || '_never_truncated', name);
  END LOOP;
END $$;
