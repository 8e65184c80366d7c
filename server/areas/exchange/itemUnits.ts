import { factorFault, type Factor } from '@larder/core/catalog/units';
import { decimal } from '@larder/core/decimal';
import { byName, lower, type CheckedRow, type Current, type Row } from '@larder/core/exchange/rows';
import { and, eq, exists, isNotNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, given, insertFrom, orNull, positive } from '../../db/given';
import { itemUnit, purchaseLine, salesLine, unit } from '../../db/schema/index';

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
  const { db } = tx;
  const units = await db.select({ code: unit.code, name: unit.name }).from(unit);
  const meant = new Map([...byName(units, ({ name }) => name), ...byName(units, ({ code }) => code)]);
  const bought = db
    .select({ one: sql`1` })
    .from(purchaseLine)
    .where(and(eq(purchaseLine.itemId, itemUnit.itemId), eq(purchaseLine.unit, unit.code), positive(purchaseLine.received)));
  const sold = db
    .select({ one: sql`1` })
    .from(salesLine)
    .where(and(eq(salesLine.itemId, itemUnit.itemId), eq(salesLine.unit, unit.code), positive(salesLine.picked)));
  const kept = await db
    .select({
      key: sql<string>`${itemUnit.itemId} || '/' || ${unit.code}`,
      many: sql<string>`trim_scale(${itemUnit.numerator}::numeric / ${itemUnit.denominator})::text`,
      moved: sql<boolean>`(${exists(bought)} or ${exists(sold)})`,
    })
    .from(itemUnit)
    .innerJoin(unit, eq(unit.id, itemUnit.unitId))
    .where(among(itemUnit.itemId, itemIds));
  const before = new Map(kept.map((row) => [row.key, row]));
  return {
    spelled: (row): Row => (row.buyUnit ? { buyUnit: meant.get(lower(row.buyUnit))?.code ?? row.buyUnit } : {}),
    faults: (row, was) => {
      if (row.buyUnit === undefined && row.buyOf === undefined) return [];
      const code = row.buyUnit ?? was?.buyUnit ?? '';
      const there = before.get(`${was?.id ?? ''}/${code}`);
      const many = row.buyOf ?? there?.many ?? '';
      if (code === '') return row.buyOf ? ['Say which unit is so many.'] : [];
      if (!meant.has(lower(code))) return [`There is no unit “${code}”.`];
      if (code === (row.unit ?? was?.unit ?? 'each')) return [`${code} is the base unit already.`];
      const fault = many === '' ? `Say how many one ${code} is.` : factorSaid(many);
      if (fault) return [fault];
      return there?.moved && !decimal(there.many).eq(many) ? [`Stock of ${row.sku ?? ''} was moved by the ${code}; how many that is cannot change.`] : [];
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
  const { db } = tx;
  const { rows: source, row: of } = given(
    'bought',
    { itemId: itemUnit.itemId, code: orNull(unit.code), numerator: orNull(itemUnit.numerator), denominator: orNull(itemUnit.denominator) },
    checked.map(({ row: { sku, buyUnit, buyOf } }) => ({ itemId: ids.get(lower(sku)) ?? 0, code: buyUnit ?? null, ...(buyOf ? factorOf(buyOf) : {}) })),
  );
  if (!fields.includes('buyUnit')) {
    await db
      .update(itemUnit)
      .set({ numerator: sql`${of.numerator}`, denominator: sql`${of.denominator}` })
      .from(source)
      .where(and(eq(itemUnit.itemId, of.itemId), itemUnit.buys, isNotNull(of.numerator)));
    return;
  }
  const itemIds = checked.map(({ row }) => ids.get(lower(row.sku)) ?? 0);
  await db
    .update(itemUnit)
    .set({ buys: false })
    .where(and(itemUnit.buys, among(itemUnit.itemId, itemIds)));
  const written = db
    .select({
      itemId: of.itemId,
      unitId: unit.id,
      numerator: sql`coalesce(${of.numerator}, ${itemUnit.numerator})`,
      denominator: sql`coalesce(${of.denominator}, ${itemUnit.denominator})`,
      buys: sql`true`,
    })
    .from(source)
    .innerJoin(unit, eq(unit.code, of.code))
    .leftJoin(itemUnit, and(eq(itemUnit.itemId, of.itemId), eq(itemUnit.unitId, unit.id)));
  await db.execute(
    insertFrom(
      itemUnit,
      written,
      sql`on conflict (item_id, unit_id) do update set numerator = excluded.numerator, denominator = excluded.denominator, buys = true`,
    ),
  );
}
