import { factorFault, type Factor } from '@larder/core/catalog/units';
import { decimal } from '@larder/core/decimal';
import { byName, lower, type CheckedRow, type Current, type Row } from '@larder/core/formats/rows';
import type { Act } from '../../act';

/** The columns of a file that say in which unit an item is bought, and how many base units one of it is. */
export const unitFields = ['buyUnit', 'buyOf'] as const;

const most = 1_000_000;

interface Buying {
  /** The unit's own code for what a file calls it. */
  spelled: (row: Row) => Row;
  faults: (row: Row, was: Current | undefined) => string[];
}

/** What is known of the units that items are bought in: their names, and those stock was moved by already. */
export async function buyingUnits({ tx }: Pick<Act, 'tx'>, itemIds: readonly number[]): Promise<Buying> {
  const units = await tx.rows<{ code: string; name: string }>('SELECT code, name FROM unit');
  const meant = new Map([...byName(units, ({ name }) => name), ...byName(units, ({ code }) => code)]);
  const kept = await tx.rows<{ key: string; many: string; moved: boolean }>(
    `SELECT n.item_id || '/' || u.code AS key, trim_scale(n.numerator::numeric / n.denominator)::text AS many,
       EXISTS (SELECT 1 FROM purchase_line WHERE item_id = n.item_id AND unit = u.code AND received > 0 UNION ALL SELECT 1 FROM sales_line WHERE item_id = n.item_id AND unit = u.code AND picked > 0) AS moved
     FROM item_unit n JOIN unit u ON u.id = n.unit_id WHERE n.item_id = ANY($1)`,
    [itemIds],
  );
  const before = new Map(kept.map((row) => [row.key, row]));
  return {
    spelled: (row): Row => (row.buyUnit ? { buyUnit: meant.get(lower(row.buyUnit))?.code ?? row.buyUnit } : {}),
    faults: (row, was) => {
      if (row.buyUnit === undefined && row.buyOf === undefined) return [];
      const unit = row.buyUnit ?? was?.buyUnit ?? '';
      const there = before.get(`${was?.id ?? ''}/${unit}`);
      const many = row.buyOf ?? there?.many ?? '';
      if (unit === '') return row.buyOf ? ['Say which unit is so many.'] : [];
      if (!meant.has(lower(unit))) return [`There is no unit “${unit}”.`];
      if (unit === (row.unit ?? was?.unit ?? 'each')) return [`${unit} is the base unit already.`];
      const fault = many === '' ? `Say how many one ${unit} is.` : factorSaid(many);
      if (fault) return [fault];
      return there?.moved && !decimal(there.many).eq(many) ? [`Stock of ${row.sku ?? ''} was moved by the ${unit}; how many that is cannot change.`] : [];
    },
  };
}

/** A number of base units as a factor in its lowest terms. */
function factorOf(many: string): Factor {
  const [numerator = decimal(0), denominator = decimal(1)] = decimal(many).toFraction();
  return { numerator: numerator.toNumber(), denominator: denominator.toNumber() };
}

function factorSaid(many: string): string | null {
  if (decimal(many).gt(most)) return `One is at most ${most}.`;
  return decimal(many).decimalPlaces() > 4 ? 'One is a number of base units with at most 4 decimals.' : factorFault(factorOf(many));
}

/** Writes the unit each item is bought in, and how many one of it is; an empty cell takes the buying by it away and leaves the unit. */
export async function writeBuyingUnits(
  { tx }: Act,
  checked: readonly CheckedRow[],
  ids: ReadonlyMap<string, number>,
  fields: readonly string[],
): Promise<void> {
  if (!unitFields.some((field) => fields.includes(field))) return;
  const rows = checked.map(({ row: { sku, buyUnit, buyOf } }) => ({ itemId: ids.get(lower(sku)), buyUnit, ...(buyOf ? factorOf(buyOf) : {}) }));
  const given = JSON.stringify(rows);
  if (!fields.includes('buyUnit')) {
    await tx.rows(
      `UPDATE item_unit n SET numerator = x.numerator, denominator = x.denominator FROM jsonb_to_recordset($1::jsonb) x("itemId" int, numerator int, denominator int) WHERE n.item_id = x."itemId" AND n.buys AND x.numerator IS NOT NULL`,
      [given],
    );
    return;
  }
  await tx.rows('UPDATE item_unit SET buys = false WHERE buys AND item_id = ANY($1)', [rows.map(({ itemId }) => itemId)]);
  await tx.rows(
    `INSERT INTO item_unit (item_id, unit_id, numerator, denominator, buys)
     SELECT x."itemId", u.id, coalesce(x.numerator, n.numerator), coalesce(x.denominator, n.denominator), true
     FROM jsonb_to_recordset($1::jsonb) x("itemId" int, "buyUnit" text, numerator int, denominator int) JOIN unit u ON u.code = x."buyUnit" LEFT JOIN item_unit n ON n.item_id = x."itemId" AND n.unit_id = u.id
     ON CONFLICT (item_id, unit_id) DO UPDATE SET numerator = excluded.numerator, denominator = excluded.denominator, buys = true`,
    [given],
  );
}
