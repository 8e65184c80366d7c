-- What each holder has, from each site, equals what its open loans say.
CREATE VIEW law_loans AS
SELECT 'item ' || item_id || ' held by ' || coalesce(holder_id::text, 'nobody') || ' from site ' || coalesce(site_id::text, 'none') || ' differs by ' || sum(quantity) AS what
FROM ( SELECT b.item_id, b.lot_id, p.party_id AS holder_id, p.site_id, b.quantity
  FROM balance b
  JOIN place p ON p.id = b.place_id
  WHERE p.kind = 'holder'
  UNION ALL
  SELECT d.item_id, t.lot_id, l.holder_id, l.site_id, -(d.drawn - d.finished)
  FROM document_line d
  JOIN loan_terms t ON t.id = d.id
  JOIN loan l ON l.id = t.loan_id) x
GROUP BY item_id, lot_id, holder_id, site_id
HAVING sum(quantity) <> 0;
