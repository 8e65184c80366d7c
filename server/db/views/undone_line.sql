-- The journal lines of bills, credits and worksheets that were undone, and whether goods of theirs moved between posting and undo.
CREATE VIEW undone_line AS
WITH undone AS (
  SELECT 'bill' AS kind, id, number FROM bill WHERE posted_at IS NOT NULL AND undone_at IS NOT NULL
  UNION ALL
  SELECT 'sheet', id, number FROM landed_sheet WHERE undone_at IS NOT NULL
), line AS (
  SELECT u.kind, u.id, u.number, e.id AS entry_id, a.id AS account_id, a.code, a.type, a.purpose, j.item_id, j.amount
  FROM undone u
  JOIN journal_entry e ON (u.kind = 'bill' AND e.bill_id = u.id) OR (u.kind = 'sheet' AND e.sheet_id = u.id)
  JOIN journal_line j ON j.entry_id = e.id
  JOIN account a ON a.id = j.account_id
), moved AS (
  SELECT DISTINCT x.number
  FROM (SELECT number, min(entry_id) AS first, max(entry_id) AS last FROM line GROUP BY number) x
  JOIN journal_entry e ON e.id > x.first AND e.id < x.last
  JOIN movement_line m ON m.movement_id = e.movement_id
  WHERE m.item_id IN (SELECT l.item_id FROM line l WHERE l.number = x.number AND l.item_id IS NOT NULL)
)
SELECT line.*, number IN (SELECT number FROM moved) AS moved FROM line;
