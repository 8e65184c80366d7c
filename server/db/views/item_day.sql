-- What each item held and was worth at the end of each day on which that changed.
CREATE VIEW item_day AS
SELECT item_id, day, sum(sum(quantity)) OVER days AS quantity, sum(sum(value)) OVER days AS value
FROM (
  SELECT l.item_id, l.effective_on AS day, l.quantity * (t.owned::int - f.owned::int) AS quantity, l.value
  FROM movement_line l JOIN place f ON f.id = l.from_place_id JOIN place t ON t.id = l.to_place_id
  UNION ALL
  SELECT item_id, effective_on, 0, amount FROM cost_change
) changes
GROUP BY item_id, day
WINDOW days AS (PARTITION BY item_id ORDER BY day);
