import { z } from 'zod';
import { endpoint } from './endpoint';
import { Id, NeededText, PathId } from './values';

/** How a person has laid out the columns of a list; columns are named as their headings say. What is not named stands where it would without. */
const ColumnLayout = z.object({
  hidden: z.array(z.string().max(60)).max(60),
  /** Of the columns that are left out at first: those that are shown. */
  shown: z.array(z.string().max(60)).max(60).default([]),
  order: z.array(z.string().max(60)).max(60),
  /** In pixels, of the columns that were given a width. */
  widths: z.record(z.string().max(60), z.number().int().min(40).max(900)),
});
export type ColumnLayout = z.infer<typeof ColumnLayout>;

/** Lists whose filters can be kept by name. */
const KeptList = z.enum(['items', 'lots', 'stock', 'inbound', 'outbound', 'levels', 'low']);
export type KeptList = z.infer<typeof KeptList>;
const KeptView = z.object({
  id: Id,
  list: z.string(),
  name: z.string(),
  search: z.string(),
  pinned: z.boolean(),
  /** Everybody has it; and whether it is of this person, or by whom it was kept. */
  shared: z.boolean(),
  mine: z.boolean(),
  person: z.string(),
  /** Its columns; null where the list has those that the person has otherwise. */
  layout: ColumnLayout.nullable(),
});
export type KeptView = z.infer<typeof KeptView>;

export const keptViews = endpoint({
  method: 'GET',
  path: '/api/lists/views',
  summary: 'Filters and columns this person has kept by name, and those that others keep for everybody',
  right: 'look',
  shows: ['view'],
  seenBy: 'everyone',
  response: z.object({ rows: z.array(KeptView) }),
});
export const keepView = endpoint({
  method: 'POST',
  path: '/api/lists/views',
  summary: 'Keep filters and columns by name; the same name again replaces them',
  right: 'look',
  changes: ['view'],
  seenBy: 'everyone',
  body: z.object({
    list: KeptList,
    name: NeededText,
    search: z.string().max(1000),
    pinned: z.boolean().default(false),
    shared: z.boolean().default(false),
    layout: ColumnLayout.nullable().default(null),
  }),
  response: KeptView,
});
export const forgetView = endpoint({
  method: 'POST',
  path: '/api/lists/views/:id/forget',
  summary: 'Forget kept filters',
  right: 'look',
  changes: ['view'],
  seenBy: 'everyone',
  params: z.object({ id: PathId }),
  response: z.object({}),
});

const LaidOutList = z.enum(['items', 'lots', 'stock', 'inbound', 'outbound', 'waiting', 'bills', 'suppliers', 'customers', 'levels', 'low']);
export type LaidOutList = z.infer<typeof LaidOutList>;

export const keptLayouts = endpoint({
  method: 'GET',
  path: '/api/lists/layouts',
  summary: 'How this person has laid out the columns of lists',
  right: 'look',
  shows: ['layout'],
  seenBy: 'everyone',
  response: z.object({ rows: z.array(z.object({ list: z.string(), layout: ColumnLayout })) }),
});
export const keepLayout = endpoint({
  method: 'PUT',
  path: '/api/lists/layouts',
  summary: 'Lay out the columns of a list',
  right: 'look',
  changes: ['layout'],
  seenBy: 'everyone',
  body: z.object({ list: LaidOutList, layout: ColumnLayout }),
  response: z.object({}),
});
