-- What is kept of the ends of months equals all lines and changes of cost up to then.
CREATE VIEW law_months AS
SELECT 'item ' || item_id || ' at place ' || place_id || ' at the end of ' || month || ' differs by ' || sum(quantity) AS what
FROM (
  SELECT month, item_id, place_id, lot_id, -quantity AS quantity FROM month_balance
  UNION ALL
  SELECT k.month, c.item_id, c.place_id, c.lot_id, sum(c.quantity)
  FROM place_change c JOIN place p ON p.id = c.place_id AND p.owned JOIN kept_month k ON k.month >= c.day
  GROUP BY 1, 2, 3, 4) x
GROUP BY month, item_id, place_id, lot_id
HAVING sum(quantity) <> 0
UNION ALL
SELECT 'item ' || item_id || ' at the end of ' || month || ' differs by ' || sum(quantity) || ' in quantity and ' || sum(value) || ' in value'
FROM (
  SELECT month, item_id, -quantity AS quantity, -value AS value FROM month_pool
  UNION ALL
  SELECT k.month, d.item_id, d.quantity, d.value
  FROM kept_month k CROSS JOIN LATERAL (SELECT DISTINCT ON (item_id) item_id, quantity, value FROM item_day WHERE day <= k.month ORDER BY item_id, day DESC) d) y
GROUP BY month, item_id
HAVING sum(quantity) <> 0 OR sum(value) <> 0;
