-- What all that a site has of an item is worth: its part of the pool by quantity, or the cost of the very units there when each keeps its own.
CREATE VIEW site_value AS
SELECT s.item_id, s.site_id, CASE WHEN i.cost_method = 'specific' THEN coalesce(u.value, 0)
    WHEN p.quantity > 0 THEN round(p.value * (s.on_hand + s.quarantine + s.bench + s.in_transit + s.on_loan + s.in_work) / p.quantity, 2)
    ELSE 0 END AS value
FROM item_site s
JOIN item i ON i.id = s.item_id
JOIN pool p ON p.item_id = s.item_id
LEFT JOIN LATERAL (SELECT sum(c.value) AS value
  FROM cost_layer c
  JOIN movement_line m ON m.item_id = c.item_id AND m.seq = c.seq
  JOIN lot l ON l.id = m.lot_id
  JOIN place x ON x.id = l.place_id
  WHERE i.cost_method = 'specific' AND c.item_id = s.item_id AND c.quantity > 0 AND x.site_id = s.site_id) u ON true;
