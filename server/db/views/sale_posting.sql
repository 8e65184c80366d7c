-- What each movement line did to a sales line: how many went out, less those that came back, at what they were sold for (the cumulative share of the line's amount, less what came before), and what they cost. An undo takes off what its original added.
CREATE VIEW sale_posting AS
SELECT x.id, x.line_id, x.day, x.quantity, x.cost,
  round(t.amount * o.rate * x.so_far / x.base_quantity, 2) - round(t.amount * o.rate * (x.so_far - x.quantity) / x.base_quantity, 2) AS sold
FROM (
  SELECT z.*, sum(z.quantity) OVER (PARTITION BY z.line_id ORDER BY z.id) AS so_far
  FROM (
    SELECT y.id, y.line_id, y.base_quantity, y.day,
      coalesce(sum(CASE r.counter WHEN 'returned' THEN -r.sign ELSE r.sign END * y.quantity) FILTER (WHERE r.measure = 'quantity'), 0) AS quantity,
      coalesce(sum(r.sign * y.value) FILTER (WHERE r.measure = 'value'), 0) AS cost
    FROM (
      SELECT l.id, d.id AS line_id, d.base_quantity, m.effective_on AS day, l.value + l.variance AS value,
        CASE WHEN m.reverses IS NULL THEN f.kind ELSE t.kind END AS from_kind,
        CASE WHEN m.reverses IS NULL THEN t.kind ELSE f.kind END AS to_kind,
        CASE WHEN m.reverses IS NULL THEN l.quantity ELSE -l.quantity END AS quantity
      FROM document_line d
      JOIN movement_line l ON l.demand_line_id = d.id
      JOIN movement m ON m.id = l.movement_id
      JOIN place f ON f.id = l.from_place_id
      JOIN place t ON t.id = l.to_place_id
      WHERE d.kind = 'sales'
    ) y
    JOIN counter_rule r ON r.document = 'sales' AND r.counter IN ('finished', 'returned') AND r.from_kind = y.from_kind AND r.to_kind = y.to_kind
    GROUP BY y.id, y.line_id, y.base_quantity, y.day
  ) z
) x
JOIN sales_terms t ON t.id = x.line_id
JOIN sales_order o ON o.id = t.order_id;
