-- No owned balance below zero.
CREATE VIEW law_no_balance_below_zero AS
SELECT 'item ' || item_id || ' at ' || p.code || ' is ' || quantity AS what
FROM balance b
JOIN place p ON p.id = b.place_id
WHERE p.owned AND quantity < 0;
