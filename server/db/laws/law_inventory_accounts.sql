-- Inventory accounts equal the pools.
CREATE VIEW law_inventory_accounts AS
SELECT 'the books say ' || books || ', the pools ' || pools AS what
FROM ( SELECT (SELECT coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.type = 'inventory') AS books, (SELECT coalesce(sum(value), 0)
    FROM pool) AS pools) x
WHERE books <> pools
UNION ALL
SELECT 'item ' || item_id || ' differs by ' || sum(amount)
FROM ( SELECT j.item_id, j.amount
  FROM journal_line j
  JOIN account a ON a.id = j.account_id
  WHERE a.type = 'inventory'
  UNION ALL
  SELECT item_id, -value
  FROM pool) y
GROUP BY item_id
HAVING sum(amount) <> 0;
