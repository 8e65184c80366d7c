import { once, toBase } from '@larder/core/catalog/units';
import { parseGs1 } from '@larder/core/codes/gs1';
import { sameGtin } from '@larder/core/codes/gtin';
import { decimal } from '@larder/core/decimal';
import type * as contract from '@larder/contract/catalog';
import type { ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';

type Read = ResponseOf<typeof contract.readCode>;
interface Row {
  itemId: number;
  sku: string;
  name: string;
  tracking: Read['items'][number]['tracking'];
  unit: string;
  numerator: number | null;
  denominator: number | null;
  lotId: number | null;
}

/**
 * What a code means as goods: by barcode (with the unit it is on), SKU, supplier's code, serial or tag, or by the GTIN of a GS1 element
 * string, which may also say lot, use-by, serial and how many. More than one item means that somebody must choose.
 */
export async function readCode({ tx }: Act, code: string): Promise<Read> {
  const gs1 = parseGs1(code.trim());
  const rows = await tx.rows<Row>(codeSql, [gs1?.gtin ?? code.trim(), gs1?.gtin ? sameGtin(gs1.gtin) : sameGtin(code.trim())]);
  const items = rows.map(({ numerator, denominator, ...row }) => ({
    ...row,
    factor: toBase(decimal(1), numerator === null ? once : { numerator, denominator: denominator ?? 1 }).toFixed(),
  }));
  const first = items[0];
  const many = gs1?.count ?? null;
  return {
    items,
    lot: gs1?.lot ?? null,
    useBy: gs1?.useBy ?? gs1?.bestBefore ?? null,
    serial: gs1?.serial ?? null,
    quantity: many !== null && first ? decimal(many).times(first.factor).toFixed() : (gs1?.netKg ?? null),
  };
}

const item = 'i.id AS "itemId", i.sku, i.name, i.tracking';
const codeSql = `SELECT DISTINCT ON ("itemId") * FROM (
    SELECT ${item}, coalesce(u.code, b0.code) AS unit, n.numerator, n.denominator, NULL::int AS "lotId", 1 AS rank FROM barcode b JOIN item i ON i.id = b.item_id JOIN unit b0 ON b0.id = i.unit_id LEFT JOIN unit u ON u.id = b.unit_id
      LEFT JOIN item_unit n ON n.item_id = i.id AND n.unit_id = b.unit_id WHERE lower(b.code) = lower($1) OR b.code = $2 OR (b.code = lpad($2, 12, '0')) OR (b.code = lpad($2, 13, '0')) OR (b.code = lpad($2, 14, '0'))
    UNION ALL SELECT ${item}, u.code, NULL, NULL, NULL, 2 FROM item i JOIN unit u ON u.id = i.unit_id WHERE lower(i.sku) = lower($1)
    UNION ALL SELECT ${item}, u.code, NULL, NULL, l.id, 3 FROM lot l JOIN item i ON i.id = l.item_id JOIN unit u ON u.id = i.unit_id WHERE l.kind = 'serial' AND (lower(l.code) = lower($1) OR lower(l.tag) = lower($1))
    UNION ALL SELECT ${item}, u.code, NULL, NULL, NULL, 4 FROM item_supplier s JOIN item i ON i.id = s.item_id JOIN unit u ON u.id = i.unit_id WHERE s.code <> '' AND lower(s.code) = lower($1)
  ) found ORDER BY "itemId", rank`;
