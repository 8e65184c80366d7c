-- What is to be paid equals the open bills.
CREATE VIEW law_payable AS
SELECT 'the account says ' || books || ', the bills ' || open AS what
FROM ( SELECT (SELECT -coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.purpose = 'payable') AS books, (SELECT coalesce(sum((b.owed - coalesce((SELECT sum(settled) FROM payment WHERE bill_id = b.id
      AND undone_at IS NULL), 0)) * CASE b.kind WHEN 'credit' THEN -1 ELSE 1 END), 0)
    FROM bill b
    WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL) AS open) x
WHERE books <> open;
