-- Balances equal their lines.
CREATE VIEW law_balances AS
SELECT 'item ' || item_id || ' at place ' || place_id || ' differs by ' || sum(quantity) AS what
FROM ( SELECT item_id, lot_id, to_place_id AS place_id, quantity
  FROM movement_line
  UNION ALL
  SELECT item_id, lot_id, from_place_id, -quantity
  FROM movement_line
  UNION ALL
  SELECT item_id, lot_id, place_id, -quantity
  FROM balance) x
GROUP BY item_id, lot_id, place_id
HAVING sum(quantity) <> 0;
