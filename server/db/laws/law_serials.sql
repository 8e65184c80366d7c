-- Each serial is in one place, and that is the place written on it.
CREATE VIEW law_serials AS
SELECT 'serial ' || l.code AS what
FROM lot l
LEFT JOIN balance b ON b.lot_id = l.id AND b.quantity > 0
WHERE l.kind = 'serial'
GROUP BY l.id, l.code, l.place_id
HAVING count(b.place_id) > 1 OR coalesce(sum(b.quantity), 0) > 1 OR (count(b.place_id) = 1 AND max(b.place_id) IS DISTINCT FROM l.place_id);
