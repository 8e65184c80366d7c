-- A line as much billed as received has nothing open on goods received or credits expected.
CREATE VIEW law_billed_whole AS
SELECT 'purchase line ' || id || ' has ' || (received_value - billed_value) || ' open' AS what
FROM purchase_line
WHERE received = billed AND received_value <> billed_value;
