-- Movements that stand: neither undone nor an undo.
CREATE VIEW standing_movement AS
SELECT m.id, m.kind, m.effective_on FROM movement m
WHERE m.reverses IS NULL AND NOT EXISTS (SELECT 1 FROM movement u WHERE u.reverses = m.id);
