-- What suppliers owe back for goods that went back after they were billed gets an account of its own.
INSERT INTO account (code, name, type, purpose)
SELECT CASE WHEN EXISTS (SELECT 1 FROM account WHERE code = '1320') THEN '1320-C' ELSE '1320' END, 'Credits expected from suppliers', 'asset', 'credits-expected'
WHERE EXISTS (SELECT 1 FROM account WHERE purpose = 'grni');
--> statement-breakpoint
WITH c AS (
  SELECT sum(greatest(billed_value - received_value, 0)) AS amount FROM purchase_line HAVING sum(greatest(billed_value - received_value, 0)) > 0
), e AS (
  INSERT INTO journal_entry (effective_on, posted_at, text) SELECT current_date, now(), 'credits expected, kept with goods received until now' FROM c RETURNING id
)
INSERT INTO journal_line (entry_id, account_id, amount)
SELECT e.id, a.id, c.amount * CASE a.purpose WHEN 'grni' THEN -1 ELSE 1 END FROM e, c, account a WHERE a.purpose IN ('grni', 'credits-expected');
