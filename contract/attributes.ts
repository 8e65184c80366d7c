import { z } from 'zod';
import { endpoint } from './endpoint';
import { Id, NeededText, PathId } from './values';

export const attributeKinds = ['text', 'number', 'date', 'choice'] as const;

const AttributeForm = z
  .object({
    name: NeededText,
    subject: z.enum(['item', 'unit']),
    kind: z.enum(attributeKinds),
    choices: z.array(NeededText).max(100, 'At most 100 choices.').default([]),
    /** Of a date: so many days before (negative) or after it somebody is reminded. */
    reminderDays: z.number().int().min(-730).max(730).nullable().default(null),
    reminderRoles: z.array(Id).max(20).default([]),
    reminderPeople: z.array(Id).max(100).default([]),
  })
  .refine(({ kind, choices }) => kind !== 'choice' || choices.length > 0, { message: 'Give the values to choose from.', path: ['choices'] })
  .refine(({ kind, reminderDays }) => reminderDays === null || kind === 'date', { message: 'Only a date can remind.', path: ['reminderDays'] });
export type AttributeForm = z.infer<typeof AttributeForm>;

const Attribute = z.object({
  id: Id,
  name: z.string(),
  subject: z.enum(['item', 'unit']),
  kind: z.enum(attributeKinds),
  choices: z.array(z.string()),
  reminderDays: z.number().nullable(),
  reminderRoles: z.array(Id),
  reminderPeople: z.array(Id),
  retired: z.boolean(),
});
export type Attribute = z.infer<typeof Attribute>;

export const listAttributes = endpoint({
  method: 'GET',
  path: '/api/catalog/attributes',
  summary: "The business's own attributes, and who may be reminded",
  right: 'look',
  shows: ['person', 'attribute'],
  seenBy: 'everyone',
  query: z.object({ retired: z.enum(['without', 'with']).default('without') }),
  response: z.object({
    rows: z.array(Attribute),
    roles: z.array(z.object({ id: Id, name: z.string() })),
    people: z.array(z.object({ id: Id, name: z.string() })),
  }),
});
export const createAttribute = endpoint({
  method: 'POST',
  path: '/api/catalog/attributes',
  summary: 'Add an attribute of items or serial units',
  right: 'setup.edit',
  changes: ['attribute', 'item', 'lot'],
  body: AttributeForm,
  response: Attribute,
});
export const editAttribute = endpoint({
  method: 'PUT',
  path: '/api/catalog/attributes/:id',
  summary: 'Change an attribute; its kind stays while values are there',
  right: 'setup.edit',
  changes: ['attribute', 'item', 'lot'],
  params: z.object({ id: PathId }),
  body: AttributeForm,
  response: Attribute,
});
