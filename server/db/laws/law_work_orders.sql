-- The lines of a work order stand as it was decided; what was scrapped is what its records say that stand; of what was taken apart each part came or was missing; an order that has ended has nothing at its work.
CREATE VIEW law_work_orders AS
SELECT d.kind || ' line ' || d.id || ' of ' || w.number AS what
FROM document_line d
LEFT JOIN component_terms c ON c.id = d.id
LEFT JOIN product_terms p ON p.id = d.id
LEFT JOIN work_order w ON w.id = coalesce(c.work_order_id, p.work_order_id)
WHERE d.kind IN ('component', 'product')
  AND (w.id IS NULL OR d.number <> w.number OR d.site_id <> w.site_id
    OR d.active <> (w.released_at IS NOT NULL AND w.ended_at IS NULL AND w.cancelled_at IS NULL)
    OR ((w.ended_at IS NOT NULL OR w.cancelled_at IS NOT NULL) AND d.drawn <> d.finished AND d.kind = 'component'))
UNION ALL
SELECT 'scrapped of ' || w.number || ' differs'
FROM work_order w
JOIN product_terms p ON p.work_order_id = w.id
JOIN document_line d ON d.id = p.id AND d.position = 1
WHERE NOT w.apart AND p.scrapped <> coalesce((SELECT sum(r.scrapped)
  FROM work_record r
  JOIN standing_movement m ON m.id = r.movement_id
  WHERE r.work_order_id = w.id), 0)
UNION ALL
SELECT 'parts of ' || w.number || ' are neither there nor missing'
FROM work_order w
JOIN product_terms p ON p.work_order_id = w.id
JOIN document_line d ON d.id = p.id
WHERE w.apart AND (d.cancelled <> p.scrapped OR d.arrived <> CASE WHEN w.cancelled_at IS NULL THEN d.base_quantity - p.scrapped ELSE 0 END);
