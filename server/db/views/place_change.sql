-- What movements put into places and took out of them: a row for each side of a line.
CREATE VIEW place_change AS
SELECT id AS line_id, item_id, lot_id, to_place_id AS place_id, effective_on AS day, quantity FROM movement_line
UNION ALL
SELECT id, item_id, lot_id, from_place_id, effective_on, -quantity FROM movement_line;
