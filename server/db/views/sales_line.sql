-- The lines of sales orders: what was agreed, and what has become of it.
CREATE VIEW sales_line AS
SELECT d.id, t.order_id, d.position, d.item_id, d.site_id, t.quantity, t.unit, t.factor_numerator, t.factor_denominator, d.base_quantity, t.price, t.price_per, t.discount, t.tax_code_id, t.amount, d.needed_on AS ship_by, d.promised_on,
  d.kept, d.active, d.drawn AS picked, d.finished AS dispatched, d.finished_value AS dispatched_cost, d.reserved, d.wanted, d.short
FROM document_line d JOIN sales_terms t ON t.id = d.id;
