-- Lines of loans: lent, and of that brought back, lost there, or still out.
CREATE VIEW loan_line AS
SELECT d.id, t.loan_id, d.position, d.item_id, d.site_id, t.lot_id, t.from_bin_id, d.drawn AS lent, d.returned AS back, d.finished - d.returned AS lost,
  d.drawn - d.finished AS out
FROM document_line d JOIN loan_terms t ON t.id = d.id;
