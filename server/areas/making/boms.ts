import type * as contract from '@larder/contract/making';
import type { BodyOf } from '@larder/contract/endpoint';
import { maybeBilled } from '@larder/core/books/purpose';
import { once, toBase } from '@larder/core/catalog/units';
import { decimal } from '@larder/core/decimal';
import { circleOf, wayInWords } from '@larder/core/making/bill';
import { Refusal, type FieldError } from '@larder/core/refusal';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { oneAfterTheOther } from '../../db/functions';
import { among, insertRows } from '../../db/given';
import { account, bom, bomAlternative, bomByProduct, bomCost, bomPart, item } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { lineFacts, quantityError, refuseErrors, type ItemFacts } from '../../documents/lines';
import { contentsOf, getBom, skusOf } from './queries';

type Form = contract.BomForm;

/** Adds a bill of materials; of an item that has one, another version, which is in use from its day on. */
export async function createBom(act: Act, form: Form): Promise<contract.Bom> {
  await oneAfterTheOther(act.tx, 'bills of materials');
  const items = await refuseBom(act, form, null);
  const [last] = await act.tx.db
    .select({ number: sql<number>`coalesce(max(${bom.number}), 0)::int` })
    .from(bom)
    .where(eq(bom.itemId, form.itemId as number));
  const [added] = await act.tx.db
    .insert(bom)
    .values({ ...headOf(form), number: (last?.number ?? 0) + 1, createdAt: act.now.toISOString(), createdBy: act.by.id })
    .returning({ id: bom.id });
  const id = added?.id as number;
  await writeLines(act, id, form, items);
  return getBom(act, id);
}

/** Changes a version whole. What was ordered by it has lines of its own and stays as it was. */
export async function editBom(act: Act, id: number, { version, ...form }: BodyOf<typeof contract.editBom>): Promise<contract.Bom> {
  await oneAfterTheOther(act.tx, 'bills of materials');
  const was = await held(act, id, version);
  if (was.itemId !== form.itemId)
    throw new Refusal(422, 'other-item', 'A version stays that of its item.', [{ field: 'itemId', sentence: 'Write a bill of its own for another item.' }]);
  const items = await refuseBom(act, form, id);
  const { db } = act.tx;
  await db
    .update(bom)
    .set({ ...headOf(form), version: version + 1 })
    .where(eq(bom.id, id));
  for (const table of [bomPart, bomAlternative, bomCost, bomByProduct]) await db.delete(table).where(eq(table.bomId, id));
  await writeLines(act, id, form, items);
  const is = await getBom(act, id);
  await recordChanges(act, 'bill of materials', id, saidOf(was), saidOf(is), (field) => field === 'costs');
  return is;
}

/** Retires a version, so that the one before it is in use again, or takes it back. */
export async function retireBom(act: Act, id: number, { retired, version }: BodyOf<typeof contract.retireBom>): Promise<contract.Bom> {
  await oneAfterTheOther(act.tx, 'bills of materials');
  const was = await held(act, id, version);
  if (!retired) await refuseCircle(act, { itemId: was.itemId, parts: was.parts }, id);
  await act.tx.db
    .update(bom)
    .set({ retiredAt: retired ? act.now.toISOString() : null, version: version + 1 })
    .where(eq(bom.id, id));
  await recordChanges(act, 'bill of materials', id, { retired: was.state === 'retired' ? 'yes' : 'no' }, { retired: retired ? 'yes' : 'no' });
  return getBom(act, id);
}

/** A version as it is, held until it is changed; refuses one that somebody else changed since. */
async function held(act: Act, id: number, version: number): Promise<contract.Bom> {
  await act.tx.db.select({ id: bom.id }).from(bom).where(eq(bom.id, id)).for('update');
  const was = await getBom(act, id);
  refuseStale(version, was.version, `The bill of ${was.sku}`);
  return was;
}

const headOf = ({ itemId, name, startsOn, makes, share, steps, note }: Form) => ({ itemId: itemId as number, name, startsOn, makes, share, steps, note });

async function writeLines({ tx }: Act, bomId: number, { parts, costs, byProducts }: Form, items: ReadonlyMap<number, ItemFacts>): Promise<void> {
  await insertRows(
    tx,
    bomPart,
    parts.map(({ itemId, unitId, quantity, waste, note }, index) => {
      const facts = items.get(itemId) as ItemFacts;
      return {
        bomId,
        position: index + 1,
        itemId,
        quantity,
        unitId: unitId === facts.unitId ? null : unitId,
        baseQuantity: baseOf(facts, unitId, quantity),
        waste,
        note,
      };
    }),
  );
  await insertRows(
    tx,
    bomAlternative,
    parts.flatMap(({ alternatives }, part) =>
      alternatives.map(({ itemId, quantity }, index) => ({ bomId, part: part + 1, position: index + 1, itemId, quantity })),
    ),
  );
  await insertRows(
    tx,
    bomCost,
    costs.map(({ accountId, ...cost }, index) => ({ bomId, position: index + 1, ...cost, accountId: accountId as number })),
  );
  await insertRows(
    tx,
    bomByProduct,
    byProducts.map((output, index) => ({ bomId, position: index + 1, ...output })),
  );
}

const factorOf = (facts: ItemFacts, unitId: number | null) =>
  unitId === null || unitId === facts.unitId ? once : facts.units.find((one) => one.unitId === unitId);
/** Base units of a quantity that can be written in that unit. */
export const baseOf = (facts: ItemFacts, unitId: number | null, quantity: string): string =>
  toBase(decimal(quantity), factorOf(facts, unitId) ?? once).toFixed();

/** Refuses, by their fields, what is not there, what cannot be made or taken, and a bill that would contain itself. Gives what it names. */
async function refuseBom(act: Act, form: Form, ownId: number | null): Promise<ReadonlyMap<number, ItemFacts>> {
  const { parts, byProducts } = form;
  const itemId = form.itemId as number;
  const named = [itemId, ...parts.flatMap((part) => [part.itemId, ...part.alternatives.map((one) => one.itemId)]), ...byProducts.map((one) => one.itemId)];
  const [{ items }, kinds, accountIds] = await Promise.all([lineFacts(act, named), kindsOf(act, named), accountsOf(act, form)]);
  const none = 'There is no such item.';
  const made = (id: number, field: string): FieldError[] => {
    const facts = items.get(id);
    if (!facts) return [{ field, sentence: none }];
    return facts.stocked ? [] : [{ field, sentence: `${facts.sku} is not kept in stock, so nothing of it can be made.` }];
  };
  const taken = (id: number, field: string): FieldError[] => {
    const facts = items.get(id);
    if (!facts) return [{ field, sentence: none }];
    return ['stocked', 'not-stocked'].includes(kinds.get(id) ?? '') ? [] : [{ field, sentence: `${facts.sku} is no goods. Write it among the other costs.` }];
  };
  const output = (id: number, quantity: string, field: string): FieldError[] => {
    const fault = items.has(id) ? quantityError(items.get(id) as ItemFacts, quantity, field) : null;
    return fault ? [fault] : [];
  };
  refuseErrors([
    ...made(itemId, 'itemId'),
    ...output(itemId, form.makes, 'makes'),
    ...parts.flatMap((part, index) => [
      ...taken(part.itemId, `parts.${index}.itemId`),
      ...unitFault(items.get(part.itemId), part, `parts.${index}`),
      ...part.alternatives.flatMap((one, at) => taken(one.itemId, `parts.${index}.alternatives.${at}.itemId`)),
    ]),
    ...byProducts.flatMap((one, index) => [
      ...made(one.itemId, `byProducts.${index}.itemId`),
      ...output(one.itemId, one.quantity, `byProducts.${index}.quantity`),
    ]),
    ...form.costs.flatMap(({ accountId }, index) =>
      accountIds.has(accountId as number) ? [] : [{ field: `costs.${index}.accountId`, sentence: 'There is no such account.' }],
    ),
  ]);
  await refuseCircle(act, { itemId, parts }, ownId);
  return items;
}

function unitFault(facts: ItemFacts | undefined, { unitId, quantity }: Form['parts'][number], field: string): FieldError[] {
  if (!facts) return [];
  const factor = factorOf(facts, unitId);
  if (!factor) return [{ field: `${field}.unitId`, sentence: `${facts.sku} is not kept in this unit.` }];
  const base = toBase(decimal(quantity), factor);
  if (base.decimalPlaces() > 4) return [{ field: `${field}.quantity`, sentence: 'That is divided too finely for its base unit.' }];
  return base.gte('1e9') ? [{ field: `${field}.quantity`, sentence: 'The quantity must be below 1,000,000,000.' }] : [];
}

async function kindsOf({ tx: { db } }: Act, ids: readonly number[]): Promise<Map<number, string>> {
  const rows = await db.select({ id: item.id, kind: item.kind }).from(item).where(among(item.id, ids));
  return new Map(rows.map(({ id, kind }) => [id, kind]));
}

async function accountsOf({ tx: { db } }: Act, { costs }: Form): Promise<Set<number>> {
  const rows = await db
    .select({ id: account.id, type: account.type, purpose: account.purpose })
    .from(account)
    .where(
      among(
        account.id,
        costs.map(({ accountId }) => accountId),
      ),
    );
  return new Set(rows.filter(maybeBilled).map(({ id }) => id));
}

/** Refuses a bill through whose parts, or what may be taken in their place, one comes back to what it makes; by any version that is not retired, since each may be in use one day. */
export async function refuseCircle(
  act: Act,
  { itemId, parts }: { itemId: number; parts: readonly { itemId: number; alternatives: readonly { itemId: number }[] }[] },
  ownId: number | null,
): Promise<void> {
  const contents = await contentsOf(act, ownId);
  const errors: FieldError[] = [];
  for (const [index, part] of parts.entries())
    for (const [at, id] of [part.itemId, ...part.alternatives.map((one) => one.itemId)].entries()) {
      const way = circleOf(itemId, [id], contents);
      if (way)
        errors.push({
          field: at === 0 ? `parts.${index}.itemId` : `parts.${index}.alternatives.${at - 1}.itemId`,
          sentence: wayInWords(await skusOf(act, way)),
        });
    }
  refuseErrors(errors);
}

/** A bill in words: what its history tells. */
const saidOf = ({ label, startsOn, makes, parts, costs, byProducts, steps, note }: contract.Bom) => ({
  name: label,
  startsOn,
  makes,
  parts: parts.map(({ sku, quantity, writtenIn, waste }) => `${quantity} ${writtenIn} ${sku}${waste === '0' ? '' : ` + ${waste} %`}`).join(', '),
  costs: costs.map(({ name, quantity, per, rate }) => `${name}: ${quantity} ${per} at ${rate}`).join(', '),
  byProducts: byProducts.map(({ sku, quantity }) => `${quantity} ${sku}`).join(', '),
  steps,
  note,
});
