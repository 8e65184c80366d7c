/** SQL of the codes that mean an item, each for so many base units, as a JSON list of `code` and `factor`; `suppliers` adds its suppliers' codes. */
export const codesSql = (item: string, { suppliers }: { suppliers: boolean }): string =>
  `(SELECT json_agg(json_build_object('code', x.code, 'factor', trim_scale(x.factor)::text)) FROM (
      SELECT sku AS code, 1::numeric AS factor FROM item WHERE id = ${item}
      UNION ALL SELECT k.code, coalesce(n.numerator::numeric / n.denominator, 1) FROM barcode k LEFT JOIN item_unit n ON n.item_id = k.item_id AND n.unit_id = k.unit_id WHERE k.item_id = ${item}
      ${suppliers ? `UNION ALL SELECT code, 1 FROM item_supplier WHERE item_id = ${item} AND code <> ''` : ''}) x)`;
