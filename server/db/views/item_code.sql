-- The codes that mean an item, each for so many base units: its SKU, its barcodes and what its suppliers call it.
CREATE VIEW item_code AS
SELECT id AS item_id, 'sku' AS source, sku AS code, 1::numeric AS factor FROM item
UNION ALL
SELECT b.item_id, 'barcode', b.code, coalesce(n.numerator::numeric / n.denominator, 1)
FROM barcode b LEFT JOIN item_unit n ON n.item_id = b.item_id AND n.unit_id = b.unit_id
UNION ALL
SELECT item_id, 'supplier', code, 1 FROM item_supplier WHERE code <> '';
