-- Document counters equal their lines.
CREATE VIEW law_document_counters AS
SELECT d.kind || ' line ' || d.id AS what
FROM document_line d
LEFT JOIN line_count x ON x.id = d.id
LEFT JOIN (SELECT purchase_line_id AS id, sum(received) AS received FROM line_settlement GROUP BY 1) s ON s.id = d.id
LEFT JOIN (
  SELECT l.supply_line_id AS id, sum(g.quantity) AS returned FROM goods_returned g JOIN movement_line l ON l.id = g.line_id GROUP BY 1
) g ON g.id = d.id
WHERE d.arrived <> coalesce(x.arrived, 0) OR d.drawn <> coalesce(x.drawn, 0) OR d.sent <> coalesce(x.sent, 0) OR d.gone <> coalesce(x.gone, 0) OR d.finished <> coalesce(x.finished, 0)
  OR d.returned <> coalesce(x.returned, 0) + coalesce(g.returned, 0)
  OR d.arrived_value <> coalesce(x.arrived_value, 0) + coalesce(s.received, 0)
  OR d.finished_value <> coalesce(x.finished_value, 0);
