-- What order lines count as billed equals the bills that stand.
CREATE VIEW law_billed AS
SELECT 'purchase line ' || d.id AS what
FROM purchase_line d
LEFT JOIN ( SELECT l.purchase_line_id AS id, sum(coalesce(l.quantity, 0) * CASE b.kind WHEN 'credit' THEN -1 ELSE 1 END) AS billed,
  sum(l.cleared) AS cleared
  FROM bill_line l
  JOIN bill b ON b.id = l.bill_id
  WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL AND l.purchase_line_id IS NOT NULL
  GROUP BY 1) x ON x.id = d.id
LEFT JOIN (SELECT purchase_line_id AS id, sum(billed) AS billed
  FROM line_settlement
  GROUP BY 1) s ON s.id = d.id
WHERE d.billed <> coalesce(x.billed, 0) OR d.billed_value <> coalesce(x.cleared, 0) + coalesce(s.billed, 0);
