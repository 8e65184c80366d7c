-- Goods received not invoiced equals what was received and not billed, and credits expected what was billed and went back.
CREATE VIEW law_goods_received AS
SELECT 'the account says ' || books || ', the purchase lines ' || open AS what
FROM ( SELECT (SELECT -coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.purpose = 'grni') AS books, (SELECT coalesce(sum(greatest(received_value - billed_value, 0)), 0)
    FROM purchase_line) AS open) x
WHERE books <> open
UNION ALL
SELECT 'credits expected are ' || books || ' in the books, ' || open || ' on the purchase lines'
FROM ( SELECT (SELECT coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.purpose = 'credits-expected') AS books, (SELECT coalesce(sum(greatest(billed_value - received_value, 0)), 0)
    FROM purchase_line) AS open) x
WHERE books <> open;
