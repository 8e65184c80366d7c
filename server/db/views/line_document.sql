-- The document that a line of a movement is shown with: the order, transfer, loan or work order whose goods came or went by it.
CREATE VIEW line_document AS
SELECT l.id AS line_id,
  CASE WHEN p.id IS NOT NULL THEN 'purchase order' WHEN s.id IS NOT NULL THEN 'sales order' WHEN t.id IS NOT NULL THEN 'transfer' WHEN n.id IS NOT NULL THEN 'loan' ELSE 'work order' END AS kind,
  coalesce(p.id, s.id, t.id, n.id, w.id) AS id, coalesce(p.number, s.number, t.number, n.number, w.number) AS number
FROM movement_line l
LEFT JOIN purchase_terms pt ON pt.id = l.supply_line_id LEFT JOIN purchase_order p ON p.id = pt.order_id
LEFT JOIN sales_terms st ON st.id = l.demand_line_id LEFT JOIN sales_order s ON s.id = st.order_id
LEFT JOIN transfer_terms tt ON tt.id = l.demand_line_id LEFT JOIN transfer t ON t.id = tt.transfer_id
LEFT JOIN loan_terms nt ON nt.id = l.demand_line_id LEFT JOIN loan n ON n.id = nt.loan_id
LEFT JOIN component_terms ct ON ct.id = l.demand_line_id LEFT JOIN product_terms qt ON qt.id = l.supply_line_id
LEFT JOIN work_order w ON w.id = coalesce(ct.work_order_id, qt.work_order_id)
WHERE coalesce(p.id, s.id, t.id, n.id, w.id) IS NOT NULL;
