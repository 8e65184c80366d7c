-- Every entry balances.
CREATE VIEW law_entries AS
SELECT 'entry ' || entry_id || ' is off by ' || sum(amount) AS what
FROM journal_line
GROUP BY entry_id
HAVING sum(amount) <> 0;
