import { z } from 'zod';
import { endpoint } from './endpoint';
import { rights } from './rights';
import { Id } from './values';

const Me = z.object({
  id: Id,
  name: z.string(),
  email: z.string(),
  grants: z.array(z.object({ siteId: Id.nullable(), rights: z.array(z.enum(rights)) })),
  company: z.object({ name: z.string(), currency: z.string(), today: z.string() }),
});
export type Me = z.infer<typeof Me>;

export const signIn = endpoint({
  method: 'POST',
  path: '/api/people/sign-in',
  summary: 'Sign in with mail address and password',
  right: null,
  body: z.object({ email: z.string().trim().min(1, 'Give your mail address.').max(200), password: z.string().min(1, 'Give your password.').max(200) }),
  response: Me,
});
export const signOut = endpoint({ method: 'POST', path: '/api/people/sign-out', summary: 'End this session', right: null, response: z.object({}) });
export const me = endpoint({ method: 'GET', path: '/api/people/me', summary: 'Who is signed in, and with which rights', right: 'look', response: Me });
