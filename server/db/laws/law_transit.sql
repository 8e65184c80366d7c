-- What is in transit to each site equals what transfers sent there and did not end.
CREATE VIEW law_transit AS
SELECT 'item ' || item_id || ' in transit to site ' || coalesce(site_id::text, 'none') || ' differs by ' || sum(quantity) AS what
FROM ( SELECT b.item_id, p.site_id, b.quantity
  FROM balance b
  JOIN place p ON p.id = b.place_id
  WHERE p.kind = 'transit'
  UNION ALL
  SELECT d.item_id, t.to_site_id, -(d.gone - d.finished)
  FROM document_line d
  JOIN transfer_terms x ON x.id = d.id
  JOIN transfer t ON t.id = x.transfer_id) x
GROUP BY item_id, site_id
HAVING sum(quantity) <> 0;
