-- What each site has of an item is worth its part of the pool, or the cost of the very units there.
CREATE VIEW law_site_values AS
SELECT 'item ' || s.item_id || ' at site ' || s.site_id || ': ' || s.value || ' instead of ' || v.value AS what
FROM item_site s
JOIN site_value v ON v.item_id = s.item_id AND v.site_id = s.site_id
WHERE s.value <> v.value;
