-- Keeps what lay where at the end of a month, and what it was worth: from the end kept last, and all that is dated after it up to here.
-- Who posts meanwhile waits, so that nothing is dated back between the reading and the keeping. Does nothing where a later month is kept.
-- It runs as the owner: whoever serves may not lock what only grows.
CREATE OR REPLACE FUNCTION close_month(ended date) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE before date;
BEGIN
  LOCK TABLE movement_line, cost_change IN SHARE ROW EXCLUSIVE MODE;
  before := coalesce((SELECT max(month) FROM kept_month), '-infinity');
  IF before >= ended THEN RETURN; END IF;
  INSERT INTO month_balance (month, item_id, place_id, lot_id, quantity)
  SELECT ended, item_id, place_id, lot_id, sum(quantity) FROM (
    SELECT item_id, place_id, lot_id, quantity FROM month_balance WHERE month = before
    UNION ALL SELECT c.item_id, c.place_id, c.lot_id, c.quantity FROM place_change c JOIN place p ON p.id = c.place_id
    WHERE p.owned AND c.day > before AND c.day <= ended) x
  GROUP BY item_id, place_id, lot_id HAVING sum(quantity) <> 0;
  INSERT INTO month_pool (month, item_id, quantity, value)
  SELECT ended, item_id, sum(quantity), sum(value) FROM (
    SELECT item_id, quantity, 0 AS value FROM month_balance WHERE month = ended
    UNION ALL SELECT item_id, 0, value FROM month_pool WHERE month = before
    UNION ALL SELECT item_id, 0, value FROM movement_line WHERE effective_on > before AND effective_on <= ended
    UNION ALL SELECT item_id, 0, amount FROM cost_change WHERE effective_on > before AND effective_on <= ended) x
  GROUP BY item_id HAVING sum(quantity) <> 0 OR sum(value) <> 0;
  INSERT INTO kept_month (month) VALUES (ended);
END $$;
