-- An undo points at a movement of the same lines turned round.
CREATE VIEW law_undos AS
SELECT 'undo ' || m.id AS what
FROM movement m
WHERE m.reverses IS NOT NULL AND EXISTS ( (SELECT item_id, lot_id, quantity, from_place_id,
  to_place_id FROM movement_line WHERE movement_id = m.id EXCEPT SELECT item_id, lot_id, quantity, to_place_id,
  from_place_id FROM movement_line WHERE movement_id = m.reverses));
