-- What order lines count as invoiced equals the invoices less credit notes, and is never more than what went out; so is what covers each dispatch.
CREATE VIEW law_invoiced AS
SELECT 'sales line ' || d.id || ' counts ' || d.billed || ' invoiced (' || d.billed_value || '), the invoices ' || coalesce(x.quantity, 0) || ' (' || coalesce(x.company, 0) || ')' AS what
FROM document_line d
LEFT JOIN (SELECT l.sales_line_id AS id, sum(CASE i.kind WHEN 'credit' THEN -l.quantity ELSE l.quantity END) AS quantity, sum(CASE i.kind WHEN 'credit' THEN -l.company ELSE l.company END) AS company
  FROM invoice_line l
  JOIN invoice i ON i.id = l.invoice_id
  WHERE l.sales_line_id IS NOT NULL
  GROUP BY 1) x ON x.id = d.id
WHERE d.kind = 'sales' AND (d.billed <> coalesce(x.quantity, 0) OR d.billed_value <> coalesce(x.company, 0))
UNION ALL
SELECT 'sales line ' || id || ' has ' || billed || ' invoiced, and ' || finished || ' went out'
FROM document_line
WHERE kind = 'sales' AND (billed > finished OR billed < 0)
UNION ALL
SELECT 'line ' || l.id || ' of ' || i.number || ' is for ' || l.quantity || ', and covers ' || coalesce(sum(c.quantity), 0)
FROM invoice_line l
JOIN invoice i ON i.id = l.invoice_id
LEFT JOIN invoice_cover c ON c.invoice_line_id = l.id
WHERE l.quantity IS NOT NULL
GROUP BY l.id, i.number
HAVING l.quantity <> coalesce(sum(c.quantity), 0)
UNION ALL
SELECT 'movement line ' || m.id || ' moved ' || m.quantity || ', and invoices cover ' || c.covered
FROM (SELECT c.line_id, sum(CASE i.kind WHEN 'credit' THEN -c.quantity ELSE c.quantity END) AS covered
  FROM invoice_cover c
  JOIN invoice_line l ON l.id = c.invoice_line_id
  JOIN invoice i ON i.id = l.invoice_id
  GROUP BY 1) c
JOIN movement_line m ON m.id = c.line_id
WHERE c.covered > m.quantity OR c.covered < 0 OR (c.covered > 0 AND EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.movement_id))
UNION ALL
SELECT i.number || ' comes to ' || (i.net + i.tax) || ', its lines and taxes to ' || (coalesce(l.net, 0) + coalesce(t.tax, 0))
FROM invoice i
LEFT JOIN (SELECT invoice_id, sum(amount) AS net, sum(company) AS company FROM invoice_line GROUP BY 1) l ON l.invoice_id = i.id
LEFT JOIN (SELECT invoice_id, sum(base) AS base, sum(tax) AS tax, sum(company) AS company FROM invoice_tax GROUP BY 1) t ON t.invoice_id = i.id
WHERE i.net <> coalesce(l.net, 0) OR i.tax <> coalesce(t.tax, 0) OR i.net <> coalesce(t.base, 0) OR i.owed <> coalesce(l.company, 0) + coalesce(t.company, 0);
