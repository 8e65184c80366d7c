-- What waits on a bench, in transit, on loan or in work equals what document lines drew and have not finished.
CREATE VIEW law_what_waits AS
SELECT 'item ' || item_id || ' at the ' || waits_at || ' of site ' || coalesce(site_id::text, 'none') || ' differs by ' || sum(quantity) AS what
FROM ( SELECT b.item_id, p.site_id, p.kind AS waits_at, b.quantity
  FROM balance b
  JOIN place p ON p.id = b.place_id
  WHERE p.kind IN (SELECT waits_at
    FROM document_kind
    UNION ALL SELECT goes_by
    FROM document_kind)
  UNION ALL
  SELECT d.item_id, d.site_id, k.waits_at, -(d.drawn - CASE WHEN k.goes_by IS NULL THEN d.finished ELSE d.gone END)
  FROM document_line d
  JOIN document_kind k ON k.kind = d.kind
  WHERE k.waits_at IS NOT NULL
  UNION ALL
  SELECT d.item_id, d.brings_to_id, k.goes_by, -(d.gone - d.finished)
  FROM document_line d
  JOIN document_kind k ON k.kind = d.kind
  WHERE k.goes_by IS NOT NULL) x
GROUP BY item_id, site_id, waits_at
HAVING sum(quantity) <> 0;
