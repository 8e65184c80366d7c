-- What each customer holds of an item is what went out to them, less what came back.
CREATE VIEW law_customers_hold AS
SELECT c.name || ' holds ' || coalesce(b.quantity, 0) || ' of ' || i.sku || ', and the orders say ' || coalesce(s.quantity, 0) AS what
FROM (SELECT p.party_id, b.item_id, sum(b.quantity) AS quantity
  FROM balance b
  JOIN place p ON p.id = b.place_id
  WHERE p.kind = 'customer'
  GROUP BY 1, 2) b
FULL JOIN (SELECT o.customer_id AS party_id, d.item_id, sum(d.finished - d.returned) AS quantity
  FROM document_line d
  JOIN sales_terms t ON t.id = d.id
  JOIN sales_order o ON o.id = t.order_id
  WHERE d.finished <> 0
  GROUP BY 1, 2) s ON s.party_id = b.party_id AND s.item_id = b.item_id
JOIN party c ON c.id = coalesce(b.party_id, s.party_id)
JOIN item i ON i.id = coalesce(b.item_id, s.item_id)
WHERE coalesce(b.quantity, 0) <> coalesce(s.quantity, 0);
