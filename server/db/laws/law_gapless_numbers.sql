-- Invoices and credit notes are numbered without gaps, up to what their counters say comes next.
CREATE VIEW law_gapless_numbers AS
SELECT 'counter ' || c.kind || ' stands at ' || c.next || ': ' || n.given || ' numbers were given, from ' || n.first || ' to ' || n.last AS what
FROM counter c
JOIN (SELECT CASE kind WHEN 'credit' THEN 'credit note' ELSE kind END AS kind, count(*) AS given, min(running) AS first, max(running) AS last
  FROM invoice
  GROUP BY 1) n ON n.kind = c.kind
WHERE c.gapless AND (n.last - n.first + 1 <> n.given OR c.next <> n.last + 1);
