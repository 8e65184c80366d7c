-- What is kept by lots or serials lies nowhere without one, and nothing else has one.
CREATE VIEW law_lots AS
SELECT i.sku || ' at ' || p.code AS what
FROM balance b
JOIN item i ON i.id = b.item_id
JOIN place p ON p.id = b.place_id
LEFT JOIN lot l ON l.id = b.lot_id
WHERE b.owned AND b.quantity > 0 AND coalesce(l.kind, 'none') <> i.tracking;
