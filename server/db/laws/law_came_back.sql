-- What came back of a dispatch is no more than went out with it, at no more than that cost, all of it at all of that; and each line of a return says what its goods went out with.
CREATE VIEW law_came_back AS
SELECT 'of movement line ' || line_id || ' ' || back || ' of ' || quantity || ' came back, at ' || back_cost || ' of ' || cost AS what
FROM went_out
WHERE back <> 0 AND (back < 0 OR back > quantity OR back_cost < 0 OR back_cost > cost OR (back = quantity AND back_cost <> cost))
UNION ALL
SELECT 'movement line ' || l.id || ' brought ' || l.quantity || ' back at ' || abs(l.value + l.variance) || ', and says ' || coalesce(sum(b.quantity), 0) || ' at ' || coalesce(sum(b.value), 0)
FROM movement m
JOIN movement_line l ON l.movement_id = m.id
LEFT JOIN came_back b ON b.line_id = l.id
WHERE m.kind = 'customer-return' AND l.demand_line_id IS NOT NULL
GROUP BY l.id
HAVING l.quantity <> coalesce(sum(b.quantity), 0) OR abs(l.value + l.variance) <> coalesce(sum(b.value), 0)
UNION ALL
SELECT 'undone movement ' || m.reverses || ' still counts ' || sum(b.quantity) || ' that came back'
FROM movement m
JOIN movement_line l ON l.movement_id IN (m.id, m.reverses)
JOIN came_back b ON b.line_id = l.id
WHERE m.reverses IS NOT NULL
GROUP BY m.id, b.of_line_id
HAVING sum(b.quantity) <> 0 OR sum(b.value) <> 0;
