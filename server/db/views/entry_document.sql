-- The document that each journal entry belongs to: the one it is shown with, and the numbers of all it concerns.
CREATE VIEW entry_document AS
SELECT e.id AS entry_id,
  CASE
    WHEN e.bill_id IS NOT NULL THEN 'bill'
    WHEN e.sheet_id IS NOT NULL THEN 'landed cost'
    WHEN o.purchase_id IS NOT NULL THEN 'purchase order'
    WHEN o.sales_id IS NOT NULL THEN 'sales order'
    WHEN e.movement_id IS NOT NULL THEN 'movement'
  END AS kind,
  coalesce(e.bill_id, e.sheet_id, o.purchase_id, o.sales_id, e.movement_id) AS document_id,
  coalesce(b.number, s.number, po.number, so.number, 'M' || e.movement_id) AS number,
  concat_ws(' ', b.number, b.reference, p.name, s.number, po.number, so.number) AS words
FROM journal_entry e
LEFT JOIN bill b ON b.id = e.bill_id
LEFT JOIN party p ON p.id = b.party_id
LEFT JOIN landed_sheet s ON s.id = e.sheet_id
LEFT JOIN LATERAL (
  SELECT min(pl.order_id) AS purchase_id, min(sl.order_id) AS sales_id
  FROM movement_line l
  LEFT JOIN purchase_terms pl ON pl.id = l.supply_line_id
  LEFT JOIN sales_terms sl ON sl.id = l.demand_line_id
  WHERE l.movement_id = e.movement_id
) o ON true
LEFT JOIN purchase_order po ON po.id = o.purchase_id
LEFT JOIN sales_order so ON so.id = o.sales_id;
