import { numberedKinds } from '@larder/contract/setupLists';
import type * as contract from '@larder/contract/setupLists';
import type { BodyOf, ParamsOf, ResponseOf } from '@larder/contract/endpoint';
import { refuseField } from '@larder/core/refusal';
import { and, asc, desc, eq, exists, inArray, ne, or, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, oneRow } from '../../db/given';
import { jsonRows } from '../../db/json';
import {
  attribute,
  carrier,
  category,
  counter,
  department,
  invoice,
  item,
  itemUnit,
  movement,
  place,
  reason,
  site,
  taxCode,
  taxRate,
  unit,
} from '../../db/schema/index';
import { lower, sameText } from '../../db/text';
import { refuseReasonAccount, refuseReasonTax } from '../../documents/bearer';
import { recordChanges } from '../../documents/changes';

type Done = Record<string, never>;

const isRetired = (at: PgColumn) => sql<boolean>`${at} is not null`;
const plain = (column: PgColumn) => sql<string>`trim_scale(${column})::text`;

/** The lists of the business, each with what was retired last. */
export async function setupLists({ tx: { db } }: Act): Promise<ResponseOf<typeof contract.setupLists>> {
  const bins = db.$count(place, and(eq(place.siteId, site.id), eq(place.kind, 'bin'), eq(place.unplaced, false), sql`${place.retiredAt} is null`));
  const ofCategory = db.$count(item, eq(item.categoryId, category.id));
  const ofUnit = db.$count(item, eq(item.unitId, unit.id));
  const [row] = await db
    .select({
      sites: jsonRows(
        { id: site.id, code: site.code, name: site.name, bins: sql<number>`${bins}::int`, retired: isRetired(site.retiredAt) },
        (select) => select.from(site),
        {
          orderBy: sql`${site.retiredAt} is not null, ${site.id}`,
        },
      ),
      categories: jsonRows(
        {
          id: category.id,
          name: category.name,
          inventoryAccountId: category.inventoryAccountId,
          costAccountId: category.costAccountId,
          salesAccountId: category.salesAccountId,
          items: sql<number>`${ofCategory}::int`,
          retired: isRetired(category.retiredAt),
        },
        (select) => select.from(category),
        { orderBy: sql`${category.retiredAt} is not null, lower(${category.name})` },
      ),
      units: jsonRows(
        {
          id: unit.id,
          code: unit.code,
          name: unit.name,
          step: sql<(typeof contract.steps)[number]>`trim_scale(${unit.step})::text`,
          items: sql<number>`${ofUnit}::int`,
          retired: isRetired(unit.retiredAt),
        },
        (select) => select.from(unit),
        { orderBy: sql`${unit.retiredAt} is not null, ${unit.id}` },
      ),
      reasons: jsonRows(
        {
          id: reason.id,
          code: reason.code,
          name: reason.name,
          place: sql<(typeof contract.reasonPlaces)[number]>`${reason.place}`,
          accountId: reason.accountId,
          taxCodeId: reason.taxCodeId,
          retired: isRetired(reason.retiredAt),
        },
        (select) => select.from(reason),
        { orderBy: sql`${reason.retiredAt} is not null, ${reason.id}` },
      ),
      departments: jsonRows(
        { id: department.id, code: department.code, name: department.name, retired: isRetired(department.retiredAt) },
        (select) => select.from(department),
        { orderBy: sql`${department.retiredAt} is not null, lower(${department.name})` },
      ),
      taxes: jsonRows(
        {
          id: taxCode.id,
          code: taxCode.code,
          name: taxCode.name,
          retired: isRetired(taxCode.retiredAt),
          rates: jsonRows(
            { fromDay: taxRate.fromDay, rate: plain(taxRate.rate), recoverable: plain(taxRate.recoverable) },
            (select) => select.from(taxRate).where(eq(taxRate.taxCodeId, taxCode.id)),
            { orderBy: desc(taxRate.fromDay) },
          ),
        },
        (select) => select.from(taxCode),
        { orderBy: sql`${taxCode.retiredAt} is not null, ${taxCode.id}` },
      ),
      numbers: jsonRows(
        { kind: sql<(typeof contract.numberedKinds)[number]>`${counter.kind}`, prefix: counter.prefix, next: counter.next },
        (select) => select.from(counter).where(inArray(counter.kind, [...numberedKinds])),
        { orderBy: asc(counter.kind) },
      ),
    })
    .from(oneRow);
  if (!row) throw new Error('one row was asked for');
  return row;
}

type Coded = typeof site | typeof unit | typeof reason | typeof department | typeof taxCode;

/** Refuses a code that another row of the same list has. */
async function refuseTaken({ tx: { db } }: Act, list: Coded, code: string, id: number | null): Promise<void> {
  const [taken] = await db
    .select({ name: list.name })
    .from(list)
    .where(and(sameText(list.code, code), id === null ? undefined : ne(list.id, id)))
    .limit(1);
  if (taken) throw refuseField(409, 'code-in-use', 'code', `${code} is already the code of ${taken.name}.`);
}

/** A row of a list as it is, held until it is changed. Refuses one that is not there. */
async function held<T extends Coded | typeof category | typeof carrier | typeof attribute>(
  { tx: { db } }: Act,
  list: T,
  id: number,
): Promise<T['$inferSelect']> {
  const [row] = await db
    .select()
    .from(list as Coded)
    .where(eq(list.id, id))
    .for('update');
  if (!row) throw refuseField(404, 'not-found', 'id', 'This is not there any more.');
  return row as T['$inferSelect'];
}

export async function editSite(act: Act, id: number, form: BodyOf<typeof contract.editSite>): Promise<Done> {
  const was = await held(act, site, id);
  await refuseTaken(act, site, form.code, id);
  await act.tx.db.update(site).set(form).where(eq(site.id, id));
  await recordChanges(act, 'site', id, { code: was.code, name: was.name }, form);
  return {};
}

const retiring = { categories: category, units: unit, reasons: reason, departments: department, taxes: taxCode, carriers: carrier, attributes: attribute };
const subjects = {
  categories: 'category',
  units: 'unit',
  reasons: 'reason',
  departments: 'department',
  taxes: 'tax',
  carriers: 'carrier',
  attributes: 'attribute',
} as const;

/** Retires a row of a list, which nothing new can be given then; what has it keeps it. The last unit in use stays. */
export async function retireListed(act: Act, { list, id }: ParamsOf<typeof contract.retireListed>, retired: boolean): Promise<Done> {
  const table = retiring[list];
  const was = await held(act, table, id);
  if (list === 'units' && retired && (await act.tx.db.$count(unit, and(ne(unit.id, id), sql`${unit.retiredAt} is null`))) === 0)
    throw refuseField(409, 'last-unit', 'id', 'This is the only unit in use; every item needs one.');
  await act.tx.db
    .update(table)
    .set({ retiredAt: retired ? act.now.toISOString() : null })
    .where(eq(table.id, id));
  await recordChanges(act, subjects[list], id, { retired: was.retiredAt !== null }, { retired });
  return {};
}

export async function editUnit(act: Act, id: number, form: BodyOf<typeof contract.editUnit>): Promise<Done> {
  const { db } = act.tx;
  const was = await held(act, unit, id);
  const words = [form.code.toLowerCase(), form.name.toLowerCase()];
  const [taken] = await db
    .select({ code: unit.code })
    .from(unit)
    .where(and(ne(unit.id, id), or(among(lower(unit.code), words), among(lower(unit.name), words))));
  if (taken) throw refuseField(409, 'name-in-use', 'code', `There is a unit ${taken.code} already.`);
  const isUsed = (await db.$count(item, eq(item.unitId, id))) + (await db.$count(itemUnit, eq(itemUnit.unitId, id))) > 0;
  if (isUsed && Number(was.step) !== Number(form.step))
    throw refuseField(409, 'unit-in-use', 'step', `Items are counted in ${was.name} already; in which parts cannot change any more.`);
  await db.update(unit).set(form).where(eq(unit.id, id));
  await recordChanges(act, 'unit', id, { code: was.code, name: was.name }, { code: form.code, name: form.name });
  return {};
}

export async function createReason(act: Act, form: BodyOf<typeof contract.createReason>): Promise<Done> {
  await refuseTaken(act, reason, form.code, null);
  await refuseReasonAccount(act, form.accountId);
  await refuseReasonTax(act, form.place, form.taxCodeId);
  await act.tx.db.insert(reason).values(form);
  return {};
}

export async function editReason(act: Act, id: number, form: BodyOf<typeof contract.editReason>): Promise<Done> {
  const { db } = act.tx;
  const was = await held(act, reason, id);
  await refuseTaken(act, reason, form.code, id);
  await refuseReasonAccount(act, form.accountId);
  await refuseReasonTax(act, form.place, form.taxCodeId);
  const given = (): SQL =>
    exists(
      db
        .select({ one: sql`1` })
        .from(movement)
        .where(eq(movement.reasonId, id)),
    );
  if (was.place !== form.place && (await db.$count(reason, and(eq(reason.id, id), given()))) > 0)
    throw refuseField(409, 'reason-in-use', 'place', `${was.name} was given already; what it is for cannot change any more. Retire it and add another.`);
  await db.update(reason).set(form).where(eq(reason.id, id));
  const { code, name, place: way, accountId, taxCodeId } = was;
  await recordChanges(act, 'reason', id, { code, name, place: way, accountId, taxCodeId }, form);
  return {};
}

export async function createDepartment(act: Act, form: BodyOf<typeof contract.createDepartment>): Promise<Done> {
  await refuseTaken(act, department, form.code, null);
  await act.tx.db.insert(department).values(form);
  return {};
}

export async function editDepartment(act: Act, id: number, form: BodyOf<typeof contract.editDepartment>): Promise<Done> {
  const was = await held(act, department, id);
  await refuseTaken(act, department, form.code, id);
  await act.tx.db.update(department).set(form).where(eq(department.id, id));
  await recordChanges(act, 'department', id, { code: was.code, name: was.name }, form);
  return {};
}

/** Adds a tax; its rate counts from the beginning, so that a document of any day finds it. */
export async function createTax(act: Act, { rate, ...form }: BodyOf<typeof contract.createTax>): Promise<Done> {
  await refuseTaken(act, taxCode, form.code, null);
  const [added] = await act.tx.db.insert(taxCode).values(form).returning({ id: taxCode.id });
  await act.tx.db.insert(taxRate).values({ taxCodeId: added?.id as number, fromDay: '2000-01-01', rate });
  return {};
}

export async function editTax(act: Act, id: number, form: BodyOf<typeof contract.editTax>): Promise<Done> {
  const was = await held(act, taxCode, id);
  await refuseTaken(act, taxCode, form.code, id);
  await act.tx.db.update(taxCode).set(form).where(eq(taxCode.id, id));
  await recordChanges(act, 'tax', id, { code: was.code, name: was.name }, form);
  return {};
}

/** A rate begins on a day to come: what was billed until then keeps the rate that it was billed at. */
export async function addTaxRate(act: Act, id: number, form: BodyOf<typeof contract.addTaxRate>): Promise<Done> {
  await held(act, taxCode, id);
  if (form.fromDay <= act.today) throw refuseField(422, 'not-valid', 'fromDay', 'Give a day to come; what was billed until today keeps its rate.');
  await act.tx.db
    .insert(taxRate)
    .values({ taxCodeId: id, ...form })
    .onConflictDoUpdate({ target: [taxRate.taxCodeId, taxRate.fromDay], set: { rate: form.rate, recoverable: form.recoverable } });
  await recordChanges(act, 'tax', id, {}, { [`rate from ${form.fromDay}`]: form.rate });
  return {};
}

/** Numbers only go up, so that none is given twice. */
export async function editNumber(
  { tx: { db } }: Act,
  kind: ParamsOf<typeof contract.editNumber>['kind'],
  form: BodyOf<typeof contract.editNumber>,
): Promise<Done> {
  const [was] = await db.select({ next: counter.next, gapless: counter.gapless }).from(counter).where(eq(counter.kind, kind)).for('update');
  if (was?.gapless && form.next !== was.next && (await db.$count(invoice, eq(invoice.kind, kind === 'invoice' ? 'invoice' : 'credit'))) > 0)
    throw refuseField(409, 'no-gaps', 'next', `These numbers have no gaps: the next one is ${was.next}.`);
  if (was && form.next < was.next)
    throw refuseField(409, 'number-given', 'next', `Numbers up to ${was.next - 1} were given already; the next one is at least ${was.next}.`);
  await db.update(counter).set(form).where(eq(counter.kind, kind));
  return {};
}
