import { and, eq, isNull, ne, sql } from 'drizzle-orm';
import { attributeFault } from '@larder/core/catalog/attribute';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import type * as contract from '@larder/contract/attributes';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { attribute, attributeValue, person, role } from '../../db/schema/index';
import { sameText } from '../../db/text';
import { recordChanges } from '../../documents/changes';

/** What is wrong with the values given for attributes, by field. */
export async function attributeFaults({ tx }: Act, subject: 'item' | 'unit', given: readonly { attributeId: number; value: string }[]): Promise<FieldError[]> {
  if (given.every(({ value }) => value === '')) return [];
  const { id, name, kind, choices } = attribute;
  const ids = given.map((each) => each.attributeId);
  const known = await tx.db
    .select({ id, name, kind, choices })
    .from(attribute)
    .where(and(eq(attribute.subject, subject), among(id, ids)));
  return given.flatMap(({ attributeId, value }, index) => {
    const fault =
      value === ''
        ? null
        : attributeFault(
            known.find((each) => each.id === attributeId),
            value,
          );
    return fault === null ? [] : [{ field: `attributes.${index}.value`, sentence: fault }];
  });
}

const fields = {
  id: attribute.id,
  name: attribute.name,
  subject: attribute.subject,
  kind: attribute.kind,
  choices: attribute.choices,
  reminderDays: attribute.reminderDays,
  retired: sql<boolean>`${attribute.retiredAt} is not null`,
  reminderRoles: attribute.reminderRoles,
  reminderPeople: attribute.reminderPeople,
};

export async function attributes(
  { tx: { db } }: Act,
  { retired }: QueryOf<typeof contract.listAttributes>,
): Promise<ResponseOf<typeof contract.listAttributes>> {
  return {
    rows: await db
      .select(fields)
      .from(attribute)
      .where(retired === 'with' ? undefined : isNull(attribute.retiredAt))
      .orderBy(sql`${attribute.retiredAt} is not null`, attribute.subject, attribute.position, attribute.id),
    roles: await db.select({ id: role.id, name: role.name }).from(role).orderBy(role.id),
    people: await db.select({ id: person.id, name: person.name }).from(person).where(eq(person.active, true)).orderBy(person.name),
  };
}

export async function createAttribute(act: Act, form: contract.AttributeForm): Promise<contract.Attribute> {
  await refuseName(act, form, 0);
  const [added] = await act.tx.db.insert(attribute).values(form).returning({ id: attribute.id });
  return one(act, added?.id as number);
}

export async function editAttribute(act: Act, id: number, form: contract.AttributeForm): Promise<contract.Attribute> {
  const was = await one(act, id);
  await refuseName(act, form, id);
  const used = await act.tx.db.selectDistinct({ value: attributeValue.value }).from(attributeValue).where(eq(attributeValue.attributeId, id));
  if (used.length > 0 && (form.kind !== was.kind || form.subject !== was.subject))
    throw refuseField(409, 'attribute-in-use', 'kind', `${was.name} has values already; its kind cannot change.`);
  const lost = form.kind === 'choice' ? used.find(({ value }) => !form.choices.includes(value)) : undefined;
  if (lost) throw refuseField(409, 'choice-in-use', 'choices', `“${lost.value}” is in use; leave it among the choices.`);
  await act.tx.db.update(attribute).set(form).where(eq(attribute.id, id));
  const is = await one(act, id);
  await recordChanges(act, 'attribute', id, was, is);
  return is;
}

async function one({ tx }: Act, id: number): Promise<contract.Attribute> {
  const [row] = await tx.db.select(fields).from(attribute).where(eq(attribute.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such attribute.');
  return row;
}

async function refuseName({ tx }: Act, { name, subject }: contract.AttributeForm, id: number): Promise<void> {
  const [taken] = await tx.db
    .select({ id: attribute.id })
    .from(attribute)
    .where(and(eq(attribute.subject, subject), sameText(attribute.name, name), ne(attribute.id, id)));
  if (taken) throw refuseField(409, 'name-in-use', 'name', `There is an attribute ${name} already.`);
}
