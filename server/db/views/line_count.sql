-- What the movements of each document line count, by the table that says which move changes which counter; an undo takes off what its original added.
CREATE VIEW line_count AS
SELECT y.id,
  sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'arrived' AND r.measure = 'quantity') AS arrived,
  sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'drawn' AND r.measure = 'quantity') AS drawn,
  sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'sent' AND r.measure = 'quantity') AS sent,
  sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'gone' AND r.measure = 'quantity') AS gone,
  sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'finished' AND r.measure = 'quantity') AS finished,
  sum(r.sign * y.quantity) FILTER (WHERE r.counter = 'returned' AND r.measure = 'quantity') AS returned,
  sum(r.sign * y.value) FILTER (WHERE r.counter = 'arrived' AND r.measure = 'value') AS arrived_value,
  sum(r.sign * y.value) FILTER (WHERE r.counter = 'finished' AND r.measure = 'value') AS finished_value
FROM (
  SELECT d.id, d.kind, l.value + l.variance AS value,
    CASE WHEN m.reverses IS NULL THEN f.kind ELSE t.kind END AS from_kind,
    CASE WHEN m.reverses IS NULL THEN t.kind ELSE f.kind END AS to_kind,
    CASE WHEN m.reverses IS NULL THEN l.quantity ELSE -l.quantity END AS quantity
  FROM movement_line l
  JOIN movement m ON m.id = l.movement_id
  JOIN place f ON f.id = l.from_place_id
  JOIN place t ON t.id = l.to_place_id
  CROSS JOIN LATERAL (VALUES (l.supply_line_id), (l.demand_line_id)) x(id)
  JOIN document_line d ON d.id = x.id
) y
JOIN counter_rule r ON r.document = y.kind AND r.from_kind = y.from_kind AND r.to_kind = y.to_kind
GROUP BY y.id;
