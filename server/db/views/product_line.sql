-- The outputs of work orders: how many are to be made, and of those were made good or scrapped.
CREATE VIEW product_line AS
SELECT d.id, t.work_order_id, d.position, d.item_id, d.brings_to_id AS site_id, d.base_quantity - d.cancelled + t.scrapped AS quantity, d.arrived AS made, t.scrapped,
  d.arrived_value AS made_value, t.share, t.bin_id, d.incoming, d.active
FROM document_line d JOIN product_terms t ON t.id = d.id;
