-- The components of work orders: what the order says for all of it, and what of that was taken from shelves and used. What was taken and not used is at the work.
CREATE VIEW component_line AS
SELECT d.id, t.work_order_id, d.position, d.item_id, d.site_id, d.base_quantity - d.cancelled AS needed, t.note, d.drawn AS taken, d.finished AS used, d.drawn - d.finished AS at_work, d.finished_value AS used_value,
  d.kept, d.reserved, d.wanted, d.short, d.active
FROM document_line d JOIN component_terms t ON t.id = d.id;
