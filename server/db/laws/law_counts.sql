-- What was posted of a count is what its posting moved in the bin; what agreed posted nothing.
CREATE VIEW law_counts AS
SELECT s.number || ' posted ' || trim_scale(x.posted) || ' of item ' || x.item_id || ' in bin ' || x.place_id || ', its posting moved ' || trim_scale(x.moved) AS what
FROM (SELECT b.sheet_id, l.movement_id, l.item_id, l.lot_id, b.place_id, sum(l.posted) AS posted, (SELECT coalesce(sum(m.quantity * ((m.to_place_id = b.place_id)::int - (m.from_place_id = b.place_id)::int)), 0)
    FROM movement_line m
    WHERE m.movement_id = l.movement_id AND m.item_id = l.item_id AND m.lot_id IS NOT DISTINCT FROM l.lot_id) AS moved
  FROM count_line l
  JOIN count_bin b ON b.id = l.bin_id
  WHERE l.movement_id IS NOT NULL
  GROUP BY 1, 2, 3, 4, 5) x
JOIN count_sheet s ON s.id = x.sheet_id
WHERE x.posted <> x.moved
UNION ALL
SELECT s.number || ' has a line that was said otherwise than it was entered last'
FROM count_line l
JOIN count_bin b ON b.id = l.bin_id
JOIN count_sheet s ON s.id = b.sheet_id
CROSS JOIN LATERAL (SELECT counted, expected, seq
  FROM count_entry e
  WHERE e.line_id = l.id
  ORDER BY e.id DESC
  LIMIT 1) e
WHERE l.settled_at IS NOT NULL AND (e.counted, e.expected, e.seq) IS DISTINCT FROM (l.counted, l.expected, l.seq);
