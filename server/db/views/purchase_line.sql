-- The lines of purchase orders: what was agreed, and what has become of it.
CREATE VIEW purchase_line AS
SELECT d.id, t.order_id, d.position, d.item_id, d.site_id, t.quantity, t.unit, t.factor_numerator, t.factor_denominator, d.base_quantity, t.price, t.price_per, t.discount, t.tax_code_id, t.amount, t.currency, t.rate, t.expected_on,
  d.kept, d.active, d.brings_to_id IS NULL AS direct, d.cancelled, d.arrived AS received, d.returned, d.arrived_value AS received_value, d.billed, d.billed_value,
  CASE WHEN d.active THEN greatest(d.base_quantity - d.cancelled - d.arrived, 0) ELSE 0 END::numeric(18, 4) AS outstanding, d.incoming
FROM document_line d JOIN purchase_terms t ON t.id = d.id;
