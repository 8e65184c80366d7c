import { z } from 'zod';
import { endpoint } from './endpoint';
import { Id, NeededText, PathId } from './values';

const KeptView = z.object({ id: Id, list: z.string(), name: z.string(), search: z.string(), pinned: z.boolean() });
export type KeptView = z.infer<typeof KeptView>;

export const keptViews = endpoint({
  method: 'GET',
  path: '/api/lists/views',
  summary: 'Filters this person has kept by name',
  right: 'look',
  shows: ['view'],
  seenBy: 'everyone',
  response: z.object({ rows: z.array(KeptView) }),
});
export const keepView = endpoint({
  method: 'POST',
  path: '/api/lists/views',
  summary: 'Keep filters by name; the same name again replaces them',
  right: 'look',
  changes: ['view'],
  seenBy: 'everyone',
  body: z.object({
    list: z.enum(['items', 'lots', 'stock', 'inbound', 'outbound']),
    name: NeededText,
    search: z.string().max(1000),
    pinned: z.boolean().default(false),
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
