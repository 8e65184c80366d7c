-- What is dated back into months that are kept is added to the end of each of them.
CREATE OR REPLACE FUNCTION keep_months() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE newest date := (SELECT max(month) FROM kept_month);
BEGIN
  IF newest IS NULL OR NOT EXISTS (SELECT 1 FROM added WHERE effective_on <= newest) THEN RETURN NULL; END IF;
  INSERT INTO month_balance AS kept (month, item_id, place_id, lot_id, quantity)
  SELECT k.month, m.item_id, m.place_id, m.lot_id, sum(m.quantity)
  FROM (SELECT effective_on, item_id, lot_id, to_place_id AS place_id, quantity FROM added
        UNION ALL SELECT effective_on, item_id, lot_id, from_place_id, -quantity FROM added) m
  JOIN place p ON p.id = m.place_id AND p.owned JOIN kept_month k ON k.month >= m.effective_on
  GROUP BY 1, 2, 3, 4 HAVING sum(m.quantity) <> 0 ORDER BY 1, 2, 3, 4
  ON CONFLICT ON CONSTRAINT month_balance_key DO UPDATE SET quantity = kept.quantity + excluded.quantity;
  INSERT INTO month_pool AS kept (month, item_id, quantity, value)
  SELECT k.month, l.item_id, sum(l.quantity * (t.owned::int - f.owned::int)), sum(l.value)
  FROM added l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id JOIN kept_month k ON k.month >= l.effective_on
  GROUP BY 1, 2 ORDER BY 1, 2
  ON CONFLICT ON CONSTRAINT month_pool_key DO UPDATE SET quantity = kept.quantity + excluded.quantity, value = kept.value + excluded.value;
  RETURN NULL;
END $$;

CREATE OR REPLACE TRIGGER movement_line_keeps_months AFTER INSERT ON movement_line REFERENCING NEW TABLE AS added FOR EACH STATEMENT EXECUTE FUNCTION keep_months();
