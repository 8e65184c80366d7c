-- What went out for sales lines by movements that stand, line by line: from stock or straight from a supplier; what came back of it, and how many of it invoices cover, credit notes taken off.
CREATE VIEW went_out AS
SELECT l.id AS line_id, l.movement_id, l.demand_line_id AS sales_line_id, l.item_id, l.lot_id, l.supply_line_id AS purchase_line_id, t.party_id, m.effective_on AS day, f.kind = 'supplier' AS straight, l.quantity,
  abs(l.value + l.variance) AS cost,
  (SELECT coalesce(sum(b.quantity), 0) FROM came_back b WHERE b.of_line_id = l.id) AS back,
  (SELECT coalesce(sum(b.value), 0) FROM came_back b WHERE b.of_line_id = l.id) AS back_cost,
  (SELECT coalesce(sum(CASE i.kind WHEN 'credit' THEN -c.quantity ELSE c.quantity END), 0)
    FROM invoice_cover c
    JOIN invoice_line n ON n.id = c.invoice_line_id
    JOIN invoice i ON i.id = n.invoice_id
    WHERE c.line_id = l.id) AS covered
FROM movement_line l
JOIN document_line d ON d.id = l.demand_line_id AND d.kind = 'sales'
JOIN movement m ON m.id = l.movement_id
JOIN place f ON f.id = l.from_place_id
JOIN place t ON t.id = l.to_place_id
WHERE t.kind = 'customer' AND m.reverses IS NULL AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id);
