import { alertKinds, isTimeOfDay } from '@larder/core/planning/alerts';
import { z } from 'zod';
import { endpoint } from './endpoint';
import { Id, page, Paging } from './values';

/** What people of the business are told as it happens, or in a round-up. */

const Alert = z.object({
  id: Id,
  kind: z.enum([...alertKinds, 'round-up']),
  at: z.string(),
  text: z.string(),
  leadsTo: z.string(),
  person: z.string(),
  /** By mail too: how far its letter is. */
  letter: z.enum(['none', 'waiting', 'sent', 'failed']),
  isNew: z.boolean(),
});
export type Alert = z.infer<typeof Alert>;
export const alertCount = endpoint({
  method: 'GET',
  path: '/api/alerts/count',
  summary: 'How many alerts of mine I have not seen',
  right: 'look',
  shows: ['alert'],
  seenBy: 'everyone',
  response: z.object({ fresh: z.number().int() }),
});
export const listAlerts = endpoint({
  method: 'GET',
  path: '/api/alerts',
  summary: 'What I was told, the last first',
  right: 'look',
  shows: ['alert', 'letter'],
  seenBy: 'everyone',
  query: z.object({ ...Paging }),
  response: page(Alert),
});
export const listAllAlerts = endpoint({
  method: 'GET',
  path: '/api/alerts/all',
  summary: 'What was told to whom, the last first',
  right: 'setup.edit',
  shows: ['alert', 'letter', 'person'],
  query: z.object({ ...Paging }),
  response: page(Alert),
});
export const seeAlerts = endpoint({
  method: 'POST',
  path: '/api/alerts/seen',
  summary: 'Say that I have seen my alerts, up to one',
  right: 'look',
  changes: ['alert'],
  seenBy: 'everyone',
  body: z.object({ upTo: Id }),
  response: z.object({}),
});

const Wish = z.object({
  kind: z.enum(alertKinds),
  siteIds: z.array(Id).max(200).nullable().default(null),
  categoryIds: z.array(Id).max(500).nullable().default(null),
  how: z.enum(['at once', 'round-up']).default('at once'),
  byMail: z.boolean().default(false),
});
export const alertWishes = endpoint({
  method: 'GET',
  path: '/api/alerts/wishes',
  summary: 'What I want to be told, of which sites and categories, and how',
  right: 'look',
  shows: ['alert', 'me'],
  seenBy: 'everyone',
  response: z.object({ wishes: z.array(Wish), roundUpAt: z.string(), email: z.string() }),
});
export const setAlertWishes = endpoint({
  method: 'PUT',
  path: '/api/alerts/wishes',
  summary: 'Say what I want to be told, of which sites and categories, and how',
  right: 'look',
  changes: ['alert'],
  seenBy: 'everyone',
  body: z.object({
    wishes: z
      .array(Wish)
      .max(alertKinds.length)
      .refine((wishes) => new Set(wishes.map(({ kind }) => kind)).size === wishes.length, 'Each kind can be said once.'),
    roundUpAt: z.string().refine(isTimeOfDay, 'Give a time such as 07:30.'),
  }),
  response: z.object({}),
});
