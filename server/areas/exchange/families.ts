import { proposedPattern, shortCode } from '@larder/core/catalog/family';
import { byName, lower, type Row } from '@larder/core/exchange/rows';
import { and, eq, max, sql } from 'drizzle-orm';
import { alias, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { ownFacts } from '../catalog/service';
import type { Importer } from './importer';
import { itemsMeant, missing } from './references';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { family, familyValue, item } from '../../db/schema/index';
import { sameText } from '../../db/text';

const [value1, value2, value3] = [alias(familyValue, 'value_1'), alias(familyValue, 'value_2'), alias(familyValue, 'value_3')];
const orEmpty = (column: PgColumn) => sql<string>`coalesce(${column}, '')`;
/** A member's family and its values, as a file writes them. */
const familyFields = {
  family: family.name,
  axis1: orEmpty(value1.axisName),
  value1: orEmpty(value1.name),
  axis2: orEmpty(value2.axisName),
  value2: orEmpty(value2.name),
  axis3: orEmpty(value3.axisName),
  value3: orEmpty(value3.name),
};

/** Members of families: the family and its values are made as they are met; the items must be there. */
export const families: Importer = {
  right: 'items.edit',
  async prepare(act, rows) {
    const items = await itemsMeant(
      act,
      rows.map((row) => row.sku ?? ''),
    );
    const rowsThere = await act.tx.db
      .select({ sku: item.sku, ...familyFields })
      .from(item)
      .innerJoin(family, eq(family.id, item.familyId))
      .leftJoin(value1, eq(value1.id, item.value1Id))
      .leftJoin(value2, eq(value2.id, item.value2Id))
      .leftJoin(value3, eq(value3.id, item.value3Id))
      .where(among(item.id, [...items.values()]));
    const there = byName(rowsThere, ({ sku }) => sku);
    // The axes each family has, and which member has which values: those that are there, and those of the rows before.
    const known = await familiesMeant(
      act,
      rows.map((row) => lower(row.family)),
    );
    const axes = new Map(known.map((one) => [one.family, one.axes]));
    const members = new Map<string, string>(known.flatMap((one) => one.members.map(({ sku, values }) => [`${one.family}: ${values}`, sku] as const)));
    return {
      current: (row) => there.get(lower(row.sku)),
      faults: (row) => {
        const named = [1, 2, 3].map((n) => lower(row[`axis${n}`])).join('/');
        const before = axes.get(lower(row.family));
        axes.set(lower(row.family), before ?? named);
        const combination = `${lower(row.family)}: ${[1, 2, 3].map((n) => lower(row[`value${n}`])).join('/')}`;
        const other = members.get(combination);
        if (other === undefined) members.set(combination, row.sku ?? '');
        return [
          ...missing(items, row.sku, 'item'),
          ...(before !== undefined && before !== named ? [`${row.family ?? ''} has other axes: ${before.split('/').filter(Boolean).join(', ')}.`] : []),
          ...(other !== undefined && lower(other) !== lower(row.sku) ? [`${other} has these values of ${row.family ?? ''} already.`] : []),
          ...[2, 3].flatMap((n) => (Boolean(row[`axis${n}`]) === Boolean(row[`value${n}`]) ? [] : [`Axis ${n} and its value belong together.`])),
          ...(there.has(lower(row.sku)) && lower(there.get(lower(row.sku))?.family) !== lower(row.family)
            ? [`${row.sku ?? ''} belongs to ${there.get(lower(row.sku))?.family ?? ''} already; remove it there first.`]
            : []),
        ];
      },
    };
  },
  async write(act, checked) {
    const items = await itemsMeant(
      act,
      checked.map(({ row }) => row.sku ?? ''),
    );
    for (const { row } of checked) await putIntoFamily(act, row, items.get(lower(row.sku)) as number);
    await ownFacts(
      act,
      checked.map(({ row }) => items.get(lower(row.sku)) as number),
    );
  },
};

/** Families by their names in small letters: their axes, `colour/size/`, and which member has which values, written the same way. */
async function familiesMeant({ tx: { db } }: Act, names: readonly string[]) {
  const axis = (n: number) =>
    sql`coalesce((${db
      .select({ name: sql`lower(${familyValue.axisName})` })
      .from(familyValue)
      .where(and(eq(familyValue.familyId, family.id), eq(familyValue.axis, n)))
      .limit(1)}), '')`;
  const values = sql<string>`lower(concat_ws('/', coalesce(${value1.name}, ''), coalesce(${value2.name}, ''), coalesce(${value3.name}, '')))`;
  return db
    .select({
      family: sql<string>`lower(${family.name})`,
      axes: sql<string>`concat_ws('/', ${axis(1)}, ${axis(2)}, ${axis(3)})`,
      members: jsonRows({ sku: item.sku, values }, (select) =>
        select
          .from(item)
          .leftJoin(value1, eq(value1.id, item.value1Id))
          .leftJoin(value2, eq(value2.id, item.value2Id))
          .leftJoin(value3, eq(value3.id, item.value3Id))
          .where(eq(item.familyId, family.id)),
      ),
    })
    .from(family)
    .where(among(sql`lower(${family.name})`, names));
}

interface Axis {
  axis: number;
  name: string;
  value: string;
}

async function putIntoFamily({ tx }: Act, row: Row, itemId: number): Promise<void> {
  const axes = [1, 2, 3].flatMap((n): Axis[] => (row[`axis${n}`] ? [{ axis: n, name: row[`axis${n}`] ?? '', value: row[`value${n}`] ?? '' }] : []));
  const familyId = await familyNamed(tx, row.family ?? '', axes, itemId);
  const ids = new Map<number, number>();
  for (const one of axes) ids.set(one.axis, await valueNamed(tx, familyId, one));
  const valueOf = (n: number) => ids.get(n) ?? null;
  await tx.db
    .update(item)
    .set({ familyId, value1Id: valueOf(1), value2Id: valueOf(2), value3Id: valueOf(3), version: sql`${item.version} + 1` })
    .where(eq(item.id, itemId));
}

/** The family of that name; made like the item where there is none. */
async function familyNamed({ db }: Act['tx'], name: string, axes: readonly Axis[], itemId: number): Promise<number> {
  const [known] = await db.select({ id: family.id }).from(family).where(sameText(family.name, name));
  if (known) return known.id;
  const [like] = await db.select({ unitId: item.unitId, categoryId: item.categoryId }).from(item).where(eq(item.id, itemId));
  if (!like) throw new Error('the item was looked up before');
  const [made] = await db
    .insert(family)
    .values({ name, code: shortCode(name) || 'FAM', skuPattern: proposedPattern(axes), ...like })
    .returning({ id: family.id });
  if (!made) throw new Error('the family was not written');
  return made.id;
}

/** The value of that name on an axis; made, behind the others, where there is none. */
async function valueNamed({ db }: Act['tx'], familyId: number, { axis, name, value }: Axis): Promise<number> {
  const onAxis = and(eq(familyValue.familyId, familyId), eq(familyValue.axis, axis));
  const [known] = await db
    .select({ id: familyValue.id })
    .from(familyValue)
    .where(and(onAxis, sameText(familyValue.name, value)));
  if (known) return known.id;
  const [last] = await db
    .select({ position: max(familyValue.position) })
    .from(familyValue)
    .where(onAxis);
  const [made] = await db
    .insert(familyValue)
    .values({ familyId, axis, axisName: name, position: (last?.position ?? 0) + 1, name: value, code: shortCode(value) || value })
    .returning({ id: familyValue.id });
  if (!made) throw new Error('the value was not written');
  return made.id;
}
