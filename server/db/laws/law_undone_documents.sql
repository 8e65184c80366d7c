-- An undone bill, credit or worksheet nets to zero on every account, and in stock too while the goods did not move.
-- What goes to stock, what has left and what no stock can bear stand on several accounts: together they net to zero, each by itself while the goods did not move.
CREATE VIEW law_undone_documents AS
WITH line AS (
  SELECT number, amount, moved,
    CASE
      WHEN purpose IN ('grni', 'credits-expected') THEN 'goods'
      WHEN type = 'inventory' OR purpose IN ('price-variance', 'cost-variance', 'cost-of-sales')
        OR account_id IN (SELECT cost_account_id FROM item) OR account_id IN (SELECT cost_account_id FROM category) THEN 'stock'
      ELSE code
    END AS side,
    CASE
      WHEN type = 'inventory' OR purpose = 'cost-variance' THEN 'inventory'
      WHEN purpose IN ('grni', 'credits-expected') THEN 'goods'
      ELSE code
    END AS account
  FROM undone_line
)
SELECT number || ' leaves ' || sum(amount) || ' on ' || side AS what FROM line GROUP BY number, side HAVING sum(amount) <> 0
UNION ALL
SELECT number || ' leaves ' || sum(amount) || ' on ' || account FROM line WHERE NOT moved GROUP BY number, account HAVING sum(amount) <> 0;
