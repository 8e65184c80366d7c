-- The document that each journal entry belongs to: the one it is shown with, and the numbers of all it concerns. Money that is for several invoices is shown with the first.
CREATE VIEW entry_document AS
SELECT e.id AS entry_id,
  CASE
    WHEN e.bill_id IS NOT NULL THEN 'bill'
    WHEN i.id IS NOT NULL THEN 'invoice'
    WHEN e.sheet_id IS NOT NULL THEN 'landed cost'
    WHEN o.purchase_id IS NOT NULL THEN 'purchase order'
    WHEN o.sales_id IS NOT NULL THEN 'sales order'
    WHEN wo.id IS NOT NULL THEN 'work order'
    WHEN e.movement_id IS NOT NULL THEN 'movement'
  END AS kind,
  coalesce(e.bill_id, i.id, e.sheet_id, o.purchase_id, o.sales_id, wo.id, e.movement_id) AS document_id,
  coalesce(b.number, i.number, s.number, po.number, so.number, wo.number, 'M' || e.movement_id) AS number,
  concat_ws(' ', b.number, b.reference, p.name, m.numbers, i.number, c.name, s.number, po.number, so.number, wo.number) AS words
FROM journal_entry e
LEFT JOIN bill b ON b.id = e.bill_id
LEFT JOIN party p ON p.id = b.party_id
LEFT JOIN LATERAL (
  SELECT min(mp.invoice_id) AS invoice_id, string_agg(mi.number, ' ' ORDER BY mi.id) AS numbers
  FROM money_part mp
  JOIN invoice mi ON mi.id = mp.invoice_id
  WHERE mp.money_id = e.money_id
) m ON true
LEFT JOIN invoice i ON i.id = coalesce(e.invoice_id, m.invoice_id)
LEFT JOIN party c ON c.id = i.party_id
LEFT JOIN landed_sheet s ON s.id = e.sheet_id
LEFT JOIN LATERAL (
  SELECT min(pl.order_id) AS purchase_id, min(sl.order_id) AS sales_id, min(coalesce(ct.work_order_id, qt.work_order_id)) AS work_id
  FROM movement_line l
  LEFT JOIN purchase_terms pl ON pl.id = l.supply_line_id
  LEFT JOIN sales_terms sl ON sl.id = l.demand_line_id
  LEFT JOIN component_terms ct ON ct.id = l.demand_line_id
  LEFT JOIN product_terms qt ON qt.id = l.supply_line_id
  WHERE l.movement_id = e.movement_id
) o ON true
LEFT JOIN purchase_order po ON po.id = o.purchase_id
LEFT JOIN sales_order so ON so.id = o.sales_id
LEFT JOIN LATERAL (SELECT min(a.work_order_id) AS work_id FROM work_amount a WHERE a.movement_id = e.movement_id) wa ON true
LEFT JOIN work_order wo ON wo.id = coalesce(o.work_id, wa.work_id);
