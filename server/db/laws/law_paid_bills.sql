-- A paid bill owes nothing.
CREATE VIEW law_paid_bills AS
SELECT b.number || ' is paid and owes ' || (b.owed - p.settled) AS what
FROM bill b
CROSS JOIN LATERAL (SELECT coalesce(sum(amount), 0) AS paid, coalesce(sum(settled), 0) AS settled
  FROM payment
  WHERE bill_id = b.id AND undone_at IS NULL) p
WHERE b.posted_at IS NOT NULL AND b.undone_at IS NULL AND p.paid = b.net + b.tax AND p.settled <> b.owed;
