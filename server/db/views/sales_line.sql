-- The lines of sales orders: what was agreed, and what has become of it. Of a line that was cancelled nothing is wanted.
CREATE VIEW sales_line AS
SELECT d.id, t.order_id, d.position, d.item_id, d.site_id, CASE WHEN d.cancelled < d.base_quantity THEN t.quantity ELSE 0 END AS quantity, t.unit, t.factor_numerator, t.factor_denominator, d.base_quantity - d.cancelled AS base_quantity, t.price, t.price_per, t.discount, t.tax_code_id, t.amount, d.needed_on AS ship_by, d.promised_on, d.stands_back, t.asked_item_id, t.bring, t.bring_from_id,
  d.kept, d.active, d.drawn AS picked, d.direct, d.sent, d.finished AS dispatched, d.returned, d.finished_value AS dispatched_cost, d.billed AS invoiced, d.billed_value AS invoiced_value, d.reserved, d.wanted, d.short
FROM document_line d JOIN sales_terms t ON t.id = d.id;
