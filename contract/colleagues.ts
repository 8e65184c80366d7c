import { z } from 'zod';
import { endpoint } from './endpoint';
import { Mail, NewPassword } from './people';
import { rights } from './rights';
import { Id, NeededText, PathId } from './values';

const one = z.object({ id: PathId });
const done = z.object({});
/** A role, at one site or (null) at all of them. */
const Given = z.object({ roleId: z.number('Choose a role.').int().positive('Choose a role.').max(2147483647), siteId: Id.nullable() });
const Colleague = z.object({
  name: NeededText,
  email: Mail,
  roles: z.array(Given).min(1, 'Give a role, or nothing can be done.').max(100, 'At most 100 roles.'),
});

export const listPeople = endpoint({
  method: 'GET',
  path: '/api/people',
  summary: 'Everybody who works here, with their roles, and what each role may do; who has left comes last',
  right: 'setup.edit',
  shows: ['person', 'place'],
  response: z.object({
    people: z.array(
      z.object({
        id: Id,
        name: z.string(),
        email: z.string(),
        retired: z.boolean(),
        roles: z.array(z.object({ roleId: Id, siteId: Id.nullable() })),
        /** When they last used a session that has not ended; null when there is none. */
        lastSeenAt: z.string().nullable(),
      }),
    ),
    roles: z.array(z.object({ id: Id, name: z.string(), rights: z.array(z.enum(rights)) })),
  }),
});
const changing = { right: 'setup.edit', changes: ['person', 'me', 'session'] } as const;
export const addPerson = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/people',
  summary: 'Add somebody with a first password, which they change themselves',
  body: Colleague.extend({ password: NewPassword }),
  response: z.object({ id: Id }),
});
export const editPerson = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/people/:id',
  summary: 'Change the name, mail address and roles of somebody; with a new password their sessions end',
  params: one,
  body: Colleague.extend({ password: NewPassword.nullable() }),
  response: done,
});
export const retirePerson = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/people/:id/retire',
  summary: 'Shut somebody out who has left, whose sessions end, or let them in again',
  params: one,
  body: z.object({ retired: z.boolean() }),
  response: done,
});
