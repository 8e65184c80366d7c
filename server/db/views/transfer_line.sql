-- The lines of transfers: what is to go, and what has become of it. What has left and neither arrived nor was lost is in transit.
CREATE VIEW transfer_line AS
SELECT d.id, t.transfer_id, d.position, d.item_id, d.site_id AS from_site_id, d.brings_to_id AS to_site_id, d.base_quantity - d.cancelled AS quantity, d.cancelled,
  t.from_bin_id, t.to_bin_id, t.sales_line_id, d.drawn AS picked, d.gone, d.arrived, d.finished - d.arrived AS lost, d.gone - d.finished AS in_transit,
  d.reserved, d.wanted, d.short, d.incoming
FROM document_line d JOIN transfer_terms t ON t.id = d.id;
