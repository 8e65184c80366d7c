-- Layers of cost equal their lines and changes, and add up to the pools of the items kept by them.
CREATE VIEW law_layers AS
SELECT 'layer ' || seq || ' of item ' || item_id AS what
FROM ( SELECT item_id, seq, quantity, value
  FROM cost_layer
  UNION ALL
  SELECT item_id, layer_seq, -quantity, -value
  FROM layer_line
  UNION ALL
  SELECT l.item_id, l.seq, 0, -c.amount
  FROM cost_change c
  JOIN movement_line l ON l.id = c.movement_line_id
  JOIN cost_layer y ON y.item_id = l.item_id AND y.seq = l.seq) x
GROUP BY item_id, seq
HAVING sum(quantity) <> 0 OR sum(value) <> 0
UNION ALL
SELECT 'item ' || p.item_id || ' by ' || i.cost_method
FROM pool p
JOIN item i ON i.id = p.item_id
LEFT JOIN (SELECT item_id, sum(quantity) AS quantity, sum(value) AS value
  FROM cost_layer
  GROUP BY 1) y ON y.item_id = p.item_id
WHERE (i.cost_method <> 'average' AND (p.quantity <> coalesce(y.quantity, 0) OR p.value <> coalesce(y.value, 0))) OR (i.cost_method = 'average'
  AND y.item_id IS NOT NULL)
UNION ALL
SELECT 'serial ' || t.code || ' of item ' || b.item_id || ' has no layer of its own'
FROM balance b
JOIN item i ON i.id = b.item_id
JOIN lot t ON t.id = b.lot_id
WHERE i.cost_method = 'specific' AND b.owned AND b.quantity > 0 AND NOT EXISTS (SELECT 1
  FROM cost_layer y
  JOIN movement_line l ON l.item_id = y.item_id AND l.seq = y.seq
  WHERE y.item_id = b.item_id AND l.lot_id = b.lot_id AND y.quantity = b.quantity);
