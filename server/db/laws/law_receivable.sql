-- What customers owe equals the open invoices: what was invoiced, less credit notes and what was paid.
CREATE VIEW law_receivable AS
SELECT 'the account says ' || books || ', the invoices ' || open AS what
FROM (SELECT (SELECT coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.purpose = 'receivable') AS books, (SELECT coalesce(sum(CASE kind WHEN 'credit' THEN -owed ELSE owed END), 0)
    FROM invoice) - (SELECT coalesce(sum(p.settled), 0)
    FROM money_part p
    JOIN money_in m ON m.id = p.money_id
    WHERE m.undone_at IS NULL) AS open) x
WHERE books <> open
UNION ALL
SELECT i.number || ' is paid and owes ' || (i.owed - c.owed - p.settled)
FROM invoice i
CROSS JOIN LATERAL (SELECT coalesce(sum(net + tax), 0) AS total, coalesce(sum(owed), 0) AS owed
  FROM invoice
  WHERE credits_id = i.id) c
CROSS JOIN LATERAL (SELECT coalesce(sum(mp.amount), 0) AS paid, coalesce(sum(mp.settled), 0) AS settled
  FROM money_part mp
  JOIN money_in m ON m.id = mp.money_id
  WHERE mp.invoice_id = i.id AND m.undone_at IS NULL) p
WHERE i.kind = 'invoice' AND i.net + i.tax - c.total = p.paid AND i.owed - c.owed <> p.settled
UNION ALL
SELECT 'payment ' || m.id || ' of ' || m.amount || ' is shared out as ' || coalesce(sum(p.amount), 0)
FROM money_in m
LEFT JOIN money_part p ON p.money_id = m.id
GROUP BY m.id
HAVING m.amount <> coalesce(sum(p.amount), 0);
