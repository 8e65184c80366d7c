-- What was used on completed work and never taken from a shelf: what was said then, less what was recorded since, and nothing once it is given up or the completion was undone.
CREATE VIEW untaken_open AS
SELECT u.id, u.line_id, t.work_order_id, u.movement_id,
  greatest(u.quantity - coalesce((SELECT sum(l.quantity)
    FROM movement_line l
    JOIN standing_movement m ON m.id = l.movement_id
    JOIN place p ON p.id = l.to_place_id
    WHERE l.demand_line_id = u.line_id AND l.movement_id > u.movement_id AND p.kind = 'made'), 0), 0) AS open
FROM untaken u
JOIN component_terms t ON t.id = u.line_id
JOIN standing_movement s ON s.id = u.movement_id
WHERE u.given_up_at IS NULL;
