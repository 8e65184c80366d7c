-- What came, was billed and was credited of a line is the cumulative share of its amount for its quantity.
CREATE VIEW law_cumulative_amounts AS
SELECT 'purchase line ' || d.id || ': ' || d.received || ' came in at ' || d.received_value AS what
FROM purchase_line d
CROSS JOIN LATERAL (SELECT f.kind = 'supplier' AND m.reverses IS NULL AS came
  FROM movement_line l
  JOIN movement m ON m.id = l.movement_id
  JOIN place f ON f.id = l.from_place_id
  WHERE l.supply_line_id = d.id
  ORDER BY l.id DESC LIMIT 1) last
WHERE last.came AND d.received_value <> round(round(d.amount * d.rate, 2) * d.received / d.base_quantity, 2)
UNION ALL
SELECT x.kind || 's of purchase line ' || x.id || ' count ' || x.amount
FROM ( SELECT d.id, b.kind, b.currency, max(b.posted_at) AS posted, bool_and(l.cumulative) AS exact, sum(l.amount) AS amount,
  max(scale(l.amount)) AS places, sum(l.quantity * l.price) * d.quantity / (d.base_quantity * d.price_per) AS share
  FROM bill_line l
  JOIN bill b ON b.id = l.bill_id
  JOIN purchase_line d ON d.id = l.purchase_line_id
  WHERE l.quantity IS NOT NULL AND b.posted_at IS NOT NULL AND b.undone_at IS NULL
  GROUP BY d.id, d.quantity, d.base_quantity, d.price_per, b.kind, b.currency) x
WHERE x.exact AND x.amount <> round(x.share, x.places) AND NOT EXISTS (SELECT 1
  FROM bill u
  JOIN bill_line l ON l.bill_id = u.id
  WHERE l.purchase_line_id = x.id AND u.kind = x.kind AND u.currency = x.currency AND u.undone_at >= x.posted);
