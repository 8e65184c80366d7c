import { and, eq, sql, type SQL } from 'drizzle-orm';
import { QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { family, familyValue, item } from '../../db/schema/index';

const valueName = (id: PgColumn): SQL => sql`(${new QueryBuilder().select({ name: familyValue.name }).from(familyValue).where(eq(familyValue.id, id))})`;
/** A member's name: its family's, and its values. */
const memberName = sql`concat_ws(', ', ${family.name}, ${valueName(item.value1Id)}, ${valueName(item.value2Id)}, ${valueName(item.value3Id)})`;

/** Facts that members share with their family: the item's column, and what the family says. */
const shared = {
  name: { own: item.name, familys: memberName },
  description: { own: item.description, familys: family.description },
  unitId: { own: item.unitId, familys: family.unitId },
  brand: { own: item.brand, familys: family.brand },
  categoryId: { own: item.categoryId, familys: family.categoryId },
  taxCodeId: { own: item.taxCodeId, familys: family.taxCodeId },
  returnable: { own: item.returnable, familys: family.returnable },
  kind: { own: item.kind, familys: family.kind },
  maker: { own: item.maker, familys: family.maker },
  inventoryAccountId: { own: item.inventoryAccountId, familys: family.inventoryAccountId },
  costAccountId: { own: item.costAccountId, familys: family.costAccountId },
  salesAccountId: { own: item.salesAccountId, familys: family.salesAccountId },
};
type Fact = keyof typeof shared;

/** What members are set to from their family, which is joined: a fact of their own stays. */
export const sharedFacts = (): Record<Fact, SQL> => {
  const kept = (fact: Fact) => sql`case when ${fact} = any(${item.ownFacts}) then ${shared[fact].own} else ${shared[fact].familys} end`;
  return {
    name: kept('name'),
    description: kept('description'),
    unitId: kept('unitId'),
    brand: kept('brand'),
    categoryId: kept('categoryId'),
    taxCodeId: kept('taxCodeId'),
    returnable: kept('returnable'),
    kind: kept('kind'),
    maker: kept('maker'),
    inventoryAccountId: kept('inventoryAccountId'),
    costAccountId: kept('costAccountId'),
    salesAccountId: kept('salesAccountId'),
  };
};

/** A member's facts that differ from its family's are its own from now on; those that agree are shared again. */
export async function ownFacts({ tx }: Act, ids: readonly number[]): Promise<void> {
  const differing = Object.entries(shared).map(([fact, { own, familys }]) => sql`case when ${own} is distinct from ${familys} then ${fact}::text end`);
  await tx.db
    .update(item)
    .set({ ownFacts: sql`array_remove(array[${sql.join(differing, sql`, `)}], null)` })
    .from(family)
    .where(and(eq(family.id, item.familyId), among(item.id, ids)));
}
