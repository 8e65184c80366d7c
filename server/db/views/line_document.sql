-- The document that a line of a movement is shown with: the order or transfer whose goods came or went by it.
CREATE VIEW line_document AS
SELECT l.id AS line_id,
  CASE WHEN p.id IS NOT NULL THEN 'purchase order' WHEN s.id IS NOT NULL THEN 'sales order' WHEN t.id IS NOT NULL THEN 'transfer' ELSE 'loan' END AS kind,
  coalesce(p.id, s.id, t.id, n.id) AS id, coalesce(p.number, s.number, t.number, n.number) AS number
FROM movement_line l
LEFT JOIN purchase_terms pt ON pt.id = l.supply_line_id LEFT JOIN purchase_order p ON p.id = pt.order_id
LEFT JOIN sales_terms st ON st.id = l.demand_line_id LEFT JOIN sales_order s ON s.id = st.order_id
LEFT JOIN transfer_terms tt ON tt.id = l.demand_line_id LEFT JOIN transfer t ON t.id = tt.transfer_id
LEFT JOIN loan_terms nt ON nt.id = l.demand_line_id LEFT JOIN loan n ON n.id = nt.loan_id
WHERE coalesce(p.id, s.id, t.id, n.id) IS NOT NULL;
