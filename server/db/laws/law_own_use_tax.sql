-- Tax on what the business uses itself is its rate of what the goods had cost, rounded once, and its account holds just that.
CREATE VIEW law_own_use_tax AS
SELECT 'the account says ' || books || ', what was used ' || owed AS what
FROM (SELECT (SELECT -coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.purpose = 'own-use-tax') AS books, (SELECT coalesce(sum(tax), 0) FROM cost_bearer) AS owed) x
WHERE books <> owed
UNION ALL
SELECT 'posting ' || movement_id || ' owes ' || tax || ' at ' || trim_scale(tax_rate) || ' % of ' || tax_base
FROM cost_bearer
WHERE tax <> round(tax_base * tax_rate / 100, 2);
