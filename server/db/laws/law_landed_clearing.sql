-- Landed cost clearing equals its open estimates.
CREATE VIEW law_landed_clearing AS
SELECT 'the account says ' || books || ', the open estimates ' || open AS what
FROM ( SELECT (SELECT -coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.purpose = 'landed-clearing') AS books, (SELECT coalesce(sum(estimate - cleared), 0)
    FROM landed_charge
    WHERE removed_at IS NULL) AS open) x
WHERE books <> open
UNION ALL
SELECT 'charge ' || c.id
FROM landed_charge c
LEFT JOIN ( SELECT l.charge_id AS id, sum(l.cleared) AS cleared
  FROM bill_line l
  JOIN bill b ON b.id = l.bill_id
  WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL AND l.charge_id IS NOT NULL
  GROUP BY 1) x ON x.id = c.id
WHERE c.cleared <> coalesce(x.cleared, 0) OR (c.settled_at IS NOT NULL AND c.cleared <> c.estimate)
UNION ALL
SELECT 'charge ' || c.id || ' and its shares'
FROM landed_charge c
JOIN landed_share s ON s.charge_id = c.id
WHERE c.removed_at IS NULL
GROUP BY c.id
HAVING sum(s.amount) <> c.estimate;
