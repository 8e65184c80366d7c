-- What each customer holds of an item is what went out to them on orders, less what came back, and what suppliers were asked to send them that no order of theirs was for.
CREATE VIEW law_customers_hold AS
SELECT c.name || ' holds ' || coalesce(b.quantity, 0) || ' of ' || i.sku || ', and the orders say ' || coalesce(s.quantity, 0) AS what
FROM (SELECT p.party_id, b.item_id, sum(b.quantity) AS quantity
  FROM balance b
  JOIN place p ON p.id = b.place_id
  WHERE p.kind = 'customer'
  GROUP BY 1, 2) b
FULL JOIN (SELECT x.party_id, x.item_id, sum(x.quantity) AS quantity
  FROM (SELECT o.customer_id AS party_id, d.item_id, d.finished - d.returned AS quantity
    FROM document_line d
    JOIN sales_terms t ON t.id = d.id
    JOIN sales_order o ON o.id = t.order_id
    WHERE d.finished <> 0
    UNION ALL
    SELECT p.party_id, l.item_id, CASE WHEN p.id = l.to_place_id THEN l.quantity ELSE -l.quantity END
    FROM movement_line l
    JOIN place p ON p.id IN (l.from_place_id, l.to_place_id) AND p.kind = 'customer'
    WHERE l.supply_line_id IS NOT NULL AND l.demand_line_id IS NULL) x
  GROUP BY 1, 2) s ON s.party_id = b.party_id AND s.item_id = b.item_id
JOIN party c ON c.id = coalesce(b.party_id, s.party_id)
JOIN item i ON i.id = coalesce(b.item_id, s.item_id)
WHERE coalesce(b.quantity, 0) <> coalesce(s.quantity, 0);
