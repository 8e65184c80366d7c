-- What is not kept in stock lies in no place of ours.
CREATE VIEW law_what_is_not_kept AS
SELECT 'item ' || i.sku || ' lies at ' || p.code AS what
FROM item i
JOIN balance b ON b.item_id = i.id
JOIN place p ON p.id = b.place_id
WHERE i.kind <> 'stocked' AND p.owned AND b.quantity <> 0
UNION ALL
SELECT 'line ' || l.id || ' of ' || i.sku || ' is kept or not, unlike its item'
FROM (SELECT id, item_id, kept
  FROM purchase_line
  UNION ALL
  SELECT id, item_id, kept
  FROM sales_line) l
JOIN item i ON i.id = l.item_id
WHERE l.kept <> (i.kind = 'stocked');
