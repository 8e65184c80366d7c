-- Lines of orders have what was agreed for them, and stand as their order does.
CREATE VIEW law_lines_of_orders AS
SELECT 'purchase line ' || d.id AS what
FROM document_line d
LEFT JOIN purchase_terms t ON t.id = d.id
LEFT JOIN purchase_order o ON o.id = t.order_id
WHERE d.kind = 'purchase' AND (o.id IS NULL OR d.number <> o.number OR d.site_id <> o.site_id
  OR d.brings_to_id IS DISTINCT FROM CASE WHEN o.ships_to_id IS NULL THEN o.site_id END OR d.active <> (o.placed_at IS NOT NULL
  AND o.closed_at IS NULL AND o.cancelled_at IS NULL))
UNION ALL
SELECT 'sales line ' || d.id
FROM document_line d
LEFT JOIN sales_terms t ON t.id = d.id
LEFT JOIN sales_order o ON o.id = t.order_id
WHERE d.kind = 'sales' AND (o.id IS NULL OR d.number <> o.number OR d.active <> (o.confirmed_at IS NOT NULL
  AND o.closed_at IS NULL AND o.cancelled_at IS NULL));
