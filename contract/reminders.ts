import { remindedOf } from '@larder/core/reminders';
import { z } from 'zod';
import { endpoint } from './endpoint';
import { Day, Id, PathId } from './values';

/** Reminders of days: of loans, of the use-by days of lots, and of the business's own dates. */

const To = { personIds: z.array(Id).max(100).default([]), roleIds: z.array(Id).max(20).default([]) };
const About = { loanId: Id.nullable().default(null), itemId: Id.nullable().default(null), lotId: Id.nullable().default(null) };
const Reminder = z.object({
  id: Id,
  about: z.enum(remindedOf),
  attributeId: Id.nullable(),
  /** What the day is called. */
  called: z.string(),
  days: z.number().int(),
  /** The next day it is about, and the one on which it is sent; null where there is none now. */
  day: Day.nullable(),
  on: Day.nullable(),
  people: z.array(z.object({ id: Id, name: z.string() })),
  roles: z.array(z.object({ id: Id, name: z.string() })),
  /** To whom it went already. */
  sent: z.array(z.object({ day: Day, person: z.string() })),
});
export type Reminder = z.infer<typeof Reminder>;
export const remindersOf = endpoint({
  method: 'GET',
  path: '/api/reminders',
  summary: 'Reminders of a loan, an item or a unit, and the days they can be about',
  right: 'look',
  shows: ['reminder', 'loan', 'lot', 'attribute', 'person'],
  seenBy: 'sites',
  query: z.object({ loanId: PathId.optional(), itemId: PathId.optional(), lotId: PathId.optional() }),
  response: z.object({
    rows: z.array(Reminder),
    /** The days that something of this sort has. */
    days: z.array(z.object({ about: z.enum(remindedOf), attributeId: Id.nullable(), called: z.string(), day: Day.nullable() })),
    people: z.array(z.object({ id: Id, name: z.string(), email: z.string() })),
    roles: z.array(z.object({ id: Id, name: z.string() })),
  }),
});
export const ReminderForm = z
  .object({
    ...About,
    about: z.enum(remindedOf),
    attributeId: Id.nullable().default(null),
    /** Days before it (below zero) or after it. */
    days: z.number('Give whole days.').int('Give whole days.').min(-730, 'At most two years before.').max(730, 'At most two years after.'),
    ...To,
  })
  .refine(({ personIds, roleIds }) => personIds.length + roleIds.length > 0, { message: 'Choose who is reminded.', path: ['personIds'] });
export type ReminderForm = z.input<typeof ReminderForm>;
export const setReminder = endpoint({
  right: 'look',
  method: 'POST',
  path: '/api/reminders',
  summary: 'Have somebody reminded, so many days around a day',
  changes: ['reminder'],
  seenBy: 'sites',
  body: ReminderForm,
  response: z.object({ id: Id }),
});
export const dropReminder = endpoint({
  right: 'look',
  method: 'POST',
  path: '/api/reminders/:id/drop',
  summary: 'Remind nobody of this any more',
  changes: ['reminder'],
  seenBy: 'sites',
  params: z.object({ id: PathId }),
  response: z.object({}),
});
export const myCalendar = endpoint({
  right: 'look',
  method: 'GET',
  path: '/api/me/calendar',
  summary: 'The address of my calendar of due days, if I have one',
  shows: ['me'],
  seenBy: 'everyone',
  response: z.object({ path: z.string().nullable() }),
});
export const newCalendar = endpoint({
  right: 'look',
  method: 'POST',
  path: '/api/me/calendar',
  summary: 'Give my calendar of due days an address of its own; one it had before ends',
  changes: ['me'],
  seenBy: 'everyone',
  response: z.object({ path: z.string() }),
});
export const endCalendar = endpoint({
  right: 'look',
  method: 'POST',
  path: '/api/me/calendar/end',
  summary: 'End the address of my calendar',
  changes: ['me'],
  seenBy: 'everyone',
  response: z.object({}),
});
