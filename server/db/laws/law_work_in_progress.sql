-- Work in progress is what its open work orders hold, of each day's books as well, and nothing where one has ended.
CREATE VIEW law_work_in_progress AS
SELECT 'the account says ' || books || ', the work orders ' || open AS what
FROM ( SELECT (SELECT coalesce(sum(j.amount), 0)
    FROM journal_line j
    JOIN account a ON a.id = j.account_id
    WHERE a.purpose = 'work-in-progress') AS books, (SELECT coalesce(sum(value), 0)
    FROM work_progress) AS open) x
WHERE books <> open
UNION ALL
SELECT 'on ' || effective_on || ' the books and the work orders differ by ' || sum(amount)
FROM ( SELECT e.effective_on, j.amount
  FROM journal_line j
  JOIN account a ON a.id = j.account_id
  JOIN journal_entry e ON e.id = j.entry_id
  WHERE a.purpose = 'work-in-progress'
  UNION ALL
  SELECT l.effective_on, l.value + l.variance
  FROM movement_line l
  WHERE l.demand_line_id IN (SELECT id FROM component_terms)
    AND (l.from_place_id IN (SELECT id FROM place WHERE kind = 'made') OR l.to_place_id IN (SELECT id FROM place WHERE kind = 'made'))
  UNION ALL
  SELECT l.effective_on, l.value + l.variance
  FROM movement_line l
  WHERE l.supply_line_id IN (SELECT id FROM product_terms)
  UNION ALL
  SELECT m.effective_on, -w.amount
  FROM work_amount w
  JOIN movement m ON m.id = w.movement_id) y
GROUP BY effective_on
HAVING sum(amount) <> 0
UNION ALL
SELECT w.number || ' has ended with ' || p.value || ' in progress'
FROM work_order w
JOIN work_progress p ON p.work_order_id = w.id
WHERE p.value <> 0 AND (w.ended_at IS NOT NULL OR w.cancelled_at IS NOT NULL)
UNION ALL
SELECT 'what was carried by posting ' || movement_id || ' leaves ' || sum(amount)
FROM work_amount
WHERE kind = 'carried'
GROUP BY movement_id
HAVING sum(amount) <> 0;
