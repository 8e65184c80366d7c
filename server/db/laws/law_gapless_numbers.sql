-- Gapless numbers have no gaps (no invoices yet).
CREATE VIEW law_gapless_numbers AS
SELECT 'counter ' || kind AS what
FROM counter
WHERE gapless AND next <> 1;
