import { eq } from 'drizzle-orm';
import { attributeFault, type AttributeFacts } from '@larder/core/catalog/attribute';
import type { ResponseOf } from '@larder/contract/endpoint';
import type * as contract from '@larder/contract/attributes';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { attribute } from '../../db/schema/index';
import { recordChanges } from '../../documents/changes';

/** What is wrong with the values given for attributes, by field. */
export async function attributeFaults({ tx }: Act, subject: 'item' | 'unit', given: readonly { attributeId: number; value: string }[]): Promise<FieldError[]> {
  if (given.every(({ value }) => value === '')) return [];
  const known = await tx.rows<AttributeFacts>('SELECT id, name, kind, choices FROM attribute WHERE subject = $1 AND id = ANY($2)', [
    subject,
    given.map((one) => one.attributeId),
  ]);
  return given.flatMap(({ attributeId, value }, index) => {
    const fault =
      value === ''
        ? null
        : attributeFault(
            known.find(({ id }) => id === attributeId),
            value,
          );
    return fault === null ? [] : [{ field: `attributes.${index}.value`, sentence: fault }];
  });
}

const columns = `id, name, subject, kind, choices, reminder_days AS "reminderDays", reminder_roles AS "reminderRoles", reminder_people AS "reminderPeople"`;

export async function attributes({ tx }: Act): Promise<ResponseOf<typeof contract.listAttributes>> {
  return {
    rows: await tx.rows<contract.Attribute>(`SELECT ${columns} FROM attribute WHERE retired_at IS NULL ORDER BY subject, position, id`),
    roles: await tx.rows('SELECT id, name FROM role ORDER BY id'),
    people: await tx.rows('SELECT id, name FROM person WHERE active ORDER BY name'),
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
  const used = await act.tx.rows<{ value: string }>('SELECT DISTINCT value FROM attribute_value WHERE attribute_id = $1', [id]);
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
  const [row] = await tx.rows<contract.Attribute>(`SELECT ${columns} FROM attribute WHERE id = $1`, [id]);
  if (!row) throw new Refusal(404, 'not-found', 'There is no such attribute.');
  return row;
}

async function refuseName({ tx }: Act, { name, subject }: contract.AttributeForm, id: number): Promise<void> {
  const [taken] = await tx.rows('SELECT 1 FROM attribute WHERE subject = $1 AND lower(name) = lower($2) AND id <> $3', [subject, name, id]);
  if (taken) throw refuseField(409, 'name-in-use', 'name', `There is an attribute ${name} already.`);
}
