-- What suppliers were ordered to send straight to customers is no more than was decided for the line, no less than they sent, and no more than their own line still is, or was before goods went back to them.
CREATE VIEW law_straight_from_suppliers AS
SELECT 'sales line ' || d.id AS what
FROM document_line d
LEFT JOIN (SELECT sales_line_id AS id, sum(quantity) AS ordered FROM supply GROUP BY 1) s ON s.id = d.id
WHERE coalesce(s.ordered, 0) > d.direct OR d.sent > coalesce(s.ordered, 0)
UNION ALL
SELECT 'purchase line ' || p.id
FROM supply s
JOIN document_line p ON p.id = s.purchase_line_id
JOIN document_line d ON d.id = s.sales_line_id
WHERE p.kind <> 'purchase' OR d.kind <> 'sales' OR p.item_id <> d.item_id OR p.brings_to_id IS NOT NULL
  OR s.quantity > p.base_quantity - p.cancelled + (
    SELECT coalesce(sum(g.called_off), 0)
    FROM goods_returned g
    JOIN movement_line l ON l.id = g.line_id
    WHERE l.supply_line_id = p.id);
