-- The document that each journal entry belongs to: the one it is shown with, and the numbers of all it concerns. Money that is for several invoices is shown with the first.
CREATE VIEW entry_document AS
SELECT e.id AS entry_id,
  CASE
    WHEN e.bill_id IS NOT NULL THEN 'bill'
    WHEN i.id IS NOT NULL THEN 'invoice'
    WHEN e.sheet_id IS NOT NULL THEN 'landed cost'
    WHEN o.purchase_id IS NOT NULL THEN 'purchase order'
    WHEN o.sales_id IS NOT NULL THEN 'sales order'
    WHEN e.movement_id IS NOT NULL THEN 'movement'
  END AS kind,
  coalesce(e.bill_id, i.id, e.sheet_id, o.purchase_id, o.sales_id, e.movement_id) AS document_id,
  coalesce(b.number, i.number, s.number, po.number, so.number, 'M' || e.movement_id) AS number,
  concat_ws(' ', b.number, b.reference, p.name, m.numbers, i.number, c.name, s.number, po.number, so.number) AS words
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
  SELECT min(pl.order_id) AS purchase_id, min(sl.order_id) AS sales_id
  FROM movement_line l
  LEFT JOIN purchase_terms pl ON pl.id = l.supply_line_id
  LEFT JOIN sales_terms sl ON sl.id = l.demand_line_id
  WHERE l.movement_id = e.movement_id
) o ON true
LEFT JOIN purchase_order po ON po.id = o.purchase_id
LEFT JOIN sales_order so ON so.id = o.sales_id;
