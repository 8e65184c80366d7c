-- Conservation: for every item all places sum to zero.
CREATE VIEW law_conservation AS
SELECT 'item ' || item_id || ' sums to ' || sum(quantity) AS what
FROM balance
GROUP BY item_id
HAVING sum(quantity) <> 0;
