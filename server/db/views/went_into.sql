-- Which lots and serials went into which, by the work orders they were used and made on; of work that goes on as another order, into what is made there as well. What is made without lots has none.
CREATE VIEW went_into AS
WITH used AS (
  SELECT DISTINCT t.work_order_id, l.item_id, l.lot_id
  FROM movement_line l
  JOIN standing_movement m ON m.id = l.movement_id
  JOIN component_terms t ON t.id = l.demand_line_id
  JOIN place p ON p.id = l.to_place_id AND p.kind = 'made'
  WHERE l.lot_id IS NOT NULL
), reached AS (
  SELECT u.item_id, u.lot_id, u.work_order_id FROM used u
  UNION
  SELECT u.item_id, u.lot_id, w.id FROM used u JOIN work_order w ON w.rest_of_id = u.work_order_id AND w.cancelled_at IS NULL
  WHERE EXISTS (SELECT 1 FROM work_amount a WHERE a.work_order_id = w.id AND a.kind = 'carried' AND a.movement_id = w.rest_by)
)
SELECT r.item_id, r.lot_id, r.work_order_id, l.item_id AS made_item_id, l.lot_id AS made_lot_id, sum(l.quantity) AS quantity, min(l.effective_on) AS day
FROM reached r
JOIN product_terms t ON t.work_order_id = r.work_order_id
JOIN movement_line l ON l.supply_line_id = t.id
JOIN standing_movement m ON m.id = l.movement_id
GROUP BY 1, 2, 3, 4, 5;
