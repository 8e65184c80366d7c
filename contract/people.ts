import { z } from 'zod';
import { endpoint } from './endpoint';
import { nouns } from './nouns';
import { rights } from './rights';
import { Id, NeededText, PathId } from './values';

const Me = z.object({
  id: Id,
  name: z.string(),
  email: z.string(),
  grants: z.array(z.object({ siteId: Id.nullable(), rights: z.array(z.enum(rights)) })),
  company: z.object({ name: z.string(), currency: z.string(), today: z.string() }),
});
export type Me = z.infer<typeof Me>;

/** A mail address in the one spelling it is kept and looked up in. */
export const Mail = z
  .string()
  .trim()
  .toLowerCase()
  .max(200, 'At most 200 characters.')
  .regex(/^[^\s@]+@[^\s@]+$/, 'Give a mail address, such as wim@larkmoor.example.');
/** How long a password is at least; how hard it is to guess is for the server to say. */
export const shortestPassword = 12;
export const NewPassword = z.string().min(shortestPassword, `At least ${shortestPassword} characters.`).max(100, 'At most 100 characters.');

/** Before anybody has signed in: whether the business is still to be founded, and whether it is the demo. */
export const door = endpoint({
  method: 'GET',
  path: '/api/people/door',
  summary: 'Whether a business is here yet, and whether it is the demo',
  right: null,
  response: z.object({ founded: z.boolean(), demo: z.boolean() }),
});
export const begin = endpoint({
  method: 'POST',
  path: '/api/people/begin',
  summary: 'Found the business with its first person; works once, with the link that the start printed',
  right: null,
  changes: nouns,
  body: z.object({
    token: z.string().min(1, 'Open the link that npm start printed.').max(100),
    business: NeededText,
    name: NeededText,
    email: Mail,
    password: NewPassword,
  }),
  response: Me,
});
export const changePassword = endpoint({
  method: 'POST',
  path: '/api/people/password',
  summary: "Change one's own password; all other sessions end",
  right: 'look',
  changes: ['me', 'session'],
  seenBy: 'everyone',
  body: z.object({ current: z.string().min(1, 'Give the password you have now.').max(200), password: NewPassword }),
  response: z.object({}),
});
const Session = z.object({ id: Id, startedAt: z.string(), lastSeenAt: z.string(), device: z.string(), current: z.boolean() });
export type Session = z.infer<typeof Session>;
export const listSessions = endpoint({
  method: 'GET',
  path: '/api/people/sessions',
  summary: "One's own sessions, the last used first",
  right: 'look',
  shows: ['session'],
  seenBy: 'everyone',
  response: z.object({ rows: z.array(Session) }),
});
export const endSessionOf = endpoint({
  method: 'POST',
  path: '/api/people/sessions/:id/end',
  summary: "End one of one's own sessions",
  right: 'look',
  changes: ['session'],
  seenBy: 'everyone',
  params: z.object({ id: PathId }),
  response: z.object({}),
});

export const signIn = endpoint({
  method: 'POST',
  path: '/api/people/sign-in',
  summary: 'Sign in with mail address and password',
  right: null,
  changes: nouns,
  body: z.object({ email: z.string().min(1, 'Give your mail address.').pipe(Mail), password: z.string().min(1, 'Give your password.').max(200) }),
  response: Me,
});
export const signOut = endpoint({
  method: 'POST',
  path: '/api/people/sign-out',
  summary: 'End this session',
  right: null,
  changes: nouns,
  response: z.object({}),
});
export const me = endpoint({
  method: 'GET',
  path: '/api/people/me',
  summary: 'Who is signed in, and with which rights',
  right: 'look',
  shows: ['me', 'setting'],
  seenBy: 'everyone',
  response: Me,
});
