-- A change of cost that is dated back into months that are kept changes what was there at the end of each of them.
CREATE OR REPLACE FUNCTION keep_month_values() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  INSERT INTO month_pool AS kept (month, item_id, quantity, value)
  SELECT k.month, c.item_id, 0, sum(c.amount) FROM added c JOIN kept_month k ON k.month >= c.effective_on GROUP BY 1, 2 ORDER BY 1, 2
  ON CONFLICT ON CONSTRAINT month_pool_key DO UPDATE SET value = kept.value + excluded.value;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER cost_change_keeps_months AFTER INSERT ON cost_change REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_month_values();
