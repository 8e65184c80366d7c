-- Parcels that are here hold no more than lies on a bench for their lines, lot by lot; what went out in parcels went out with the movement of its shipment, which stands.
CREATE VIEW law_parcels AS
WITH bench AS (
  SELECT l.demand_line_id AS line, l.lot_id AS lot, sum(l.quantity * ((t.kind = 'bench')::int - (f.kind = 'bench')::int)) AS lies
  FROM movement_line l
  JOIN place f ON f.id = l.from_place_id
  JOIN place t ON t.id = l.to_place_id
  WHERE l.demand_line_id IN (SELECT line_id FROM parcel_content)
  GROUP BY 1, 2
), packed AS (
  SELECT c.line_id AS line, c.lot_id AS lot, s.movement_id AS movement, sum(c.quantity) AS quantity
  FROM parcel_content c
  JOIN parcel p ON p.id = c.parcel_id
  LEFT JOIN shipment s ON s.id = p.shipment_id
  GROUP BY 1, 2, 3
)
SELECT 'sales line ' || p.line || ': ' || p.quantity || ' packed, ' || coalesce(b.lies, 0) || ' on the bench' AS what
FROM packed p
LEFT JOIN bench b ON b.line = p.line AND b.lot IS NOT DISTINCT FROM p.lot
WHERE p.movement IS NULL AND p.quantity > coalesce(b.lies, 0)
UNION ALL
SELECT 'sales line ' || p.line || ': ' || p.quantity || ' in parcels of movement ' || p.movement
FROM packed p
LEFT JOIN (SELECT movement_id, demand_line_id, lot_id, sum(quantity) AS went FROM movement_line GROUP BY 1, 2, 3) l
  ON l.movement_id = p.movement AND l.demand_line_id = p.line AND l.lot_id IS NOT DISTINCT FROM p.lot
WHERE p.movement IS NOT NULL AND p.quantity > coalesce(l.went, 0)
UNION ALL
SELECT s.number || ' went out with a movement that was undone'
FROM shipment s
JOIN movement u ON u.reverses = s.movement_id;
