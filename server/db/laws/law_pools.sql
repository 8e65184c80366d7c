-- Every pool equals its owned balances in quantity, and its lines and cost changes in value.
CREATE VIEW law_pools AS
SELECT 'item ' || p.item_id || ': quantity ' || p.quantity || ', value ' || p.value AS what
FROM pool p
LEFT JOIN (SELECT b.item_id, sum(b.quantity) AS q
  FROM balance b
  JOIN place x ON x.id = b.place_id
  WHERE x.owned
  GROUP BY 1) b ON b.item_id = p.item_id
LEFT JOIN (SELECT item_id, sum(value) AS v
  FROM (SELECT item_id, value
    FROM movement_line
    UNION ALL
    SELECT item_id, amount
    FROM cost_change) y
  GROUP BY 1) v ON v.item_id = p.item_id
WHERE p.quantity <> coalesce(b.q, 0) OR p.value <> coalesce(v.v, 0) OR p.value < 0 OR (p.quantity = 0 AND p.value <> 0);
