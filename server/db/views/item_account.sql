-- The accounts an item stands on, its costs go to and its sales come from: its own, else its category's, else the business's.
CREATE VIEW item_account AS
SELECT i.id AS item_id,
  coalesce(i.inventory_account_id, c.inventory_account_id, (SELECT id FROM account WHERE purpose = 'inventory')) AS inventory,
  coalesce(i.cost_account_id, c.cost_account_id, (SELECT id FROM account WHERE purpose = 'cost-of-sales')) AS cost,
  coalesce(i.sales_account_id, c.sales_account_id, (SELECT id FROM account WHERE purpose = 'sales')) AS sales
FROM item i LEFT JOIN category c ON c.id = i.category_id;
