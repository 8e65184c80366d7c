import { eq } from 'drizzle-orm';
import { shortCode } from '@larder/core/catalog/family';
import type * as contract from '@larder/contract/families';
import type { BodyOf } from '@larder/contract/endpoint';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { family as familyTable, item as itemTable } from '../../db/schema/index';
import { recordChanges } from '../../documents/changes';
import { family } from './familyQueries';
import { ownFacts } from './sharedFacts';
import { setValues, addValues, lockedFamily } from './families';

/** Items become members by their values; what they have differently stays their own. */
export async function joinFamily(act: Act, id: number, { items }: BodyOf<typeof contract.joinFamily>): Promise<contract.Family> {
  const was = await lockedFamily(act, id);
  const errors: FieldError[] = [];
  const taken = new Set(was.list.map(({ valueIds }) => valueIds.map((valueId) => nameOf(was, valueId)).join('/')));
  const joining = await act.tx.db
    .select({ id: itemTable.id, sku: itemTable.sku, family: familyTable.name })
    .from(itemTable)
    .leftJoin(familyTable, eq(familyTable.id, itemTable.familyId))
    .where(
      among(
        itemTable.id,
        items.map(({ itemId }) => itemId),
      ),
    );
  items.forEach(({ itemId, values }, index) => {
    const row = joining.find((one) => one.id === itemId);
    const given = values.map(plain).join('/');
    if (!row) errors.push({ field: `items.${index}.itemId`, sentence: 'There is no such item.' });
    else if (row.family !== null) errors.push({ field: `items.${index}.itemId`, sentence: `${row.sku} belongs to ${row.family} already.` });
    else if (values.length !== was.axisValues.length) errors.push({ field: `items.${index}.values`, sentence: `Give ${row.sku} a value on each axis.` });
    else if (taken.has(given)) errors.push({ field: `items.${index}.values`, sentence: `Another member has these values already.` });
    taken.add(given);
  });
  if (errors[0]) throw new Refusal(409, 'cannot-join', errors[0].sentence, errors);
  await addValues(act, was, unknownValues(was, items));
  const { axisValues } = await family(act, id);
  for (const { itemId, values } of items)
    await setValues(
      act,
      itemId,
      id,
      values.map((name, at) => axisValues[at]?.values.find((value) => plain(value.name) === plain(name))?.id as number),
    );
  await ownFacts(
    act,
    items.map(({ itemId }) => itemId),
  );
  await recordChanges(act, 'family', id, { members: was.members }, { members: was.members + items.length });
  return family(act, id);
}

const plain = (value: string): string => value.trim().toLowerCase();

const nameOf = (was: contract.Family, valueId: number): string =>
  plain(was.axisValues.flatMap(({ values }) => values).find(({ id }) => id === valueId)?.name ?? '');

/** Values given that their axis does not have yet, each once, with a code for SKUs. */
function unknownValues(was: contract.Family, items: readonly { values: readonly string[] }[]) {
  return was.axisValues.flatMap((axis, at) => {
    const fresh = new Map(items.map(({ values }) => [plain(values[at] ?? ''), (values[at] ?? '').trim()]));
    for (const { name } of axis.values) fresh.delete(plain(name));
    return [...fresh.values()].map((name) => ({ axis: at + 1, name, code: shortCode(name) || name.slice(0, 12) }));
  });
}

/** Members become loose items again, with the facts they have now. */
export async function leaveFamily(act: Act, id: number, itemIds: readonly number[]): Promise<contract.Family> {
  const was = await lockedFamily(act, id);
  for (const itemId of itemIds) {
    if (!was.list.some((member) => member.itemId === itemId))
      throw refuseField(404, 'no-member', 'itemIds', `One of these items is not a member of ${was.name}.`);
    await setValues(act, itemId, null, []);
  }
  await recordChanges(act, 'family', id, { members: was.members }, { members: was.members - itemIds.length });
  return family(act, id);
}
