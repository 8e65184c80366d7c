import { refuseField, Refusal } from '@larder/core/refusal';
import type { BodyOf } from '@larder/contract/endpoint';
import type * as contract from '@larder/contract/people';
import { verify } from '@node-rs/argon2';
import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import type pg from 'pg';
import { eq } from 'drizzle-orm';
import { drizzleOn, transaction } from '../../db/database';
import { found, type Founding } from '../../db/found';
import { newPassword } from './password';
import { company, person, session } from '../../db/schema/index';
import { oneAfterTheOther } from '../../db/functions';

const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();
/** The first person of earlier versions, whose password everybody knows. */
const known = { email: 'first@business.example', password: 'change-me-soon' };

/** Whether somebody must still found the business, or make its first person their own; with the token of a link that does it once. */
export async function openFounding(pool: pg.Pool): Promise<{ founding: Founding; token: string } | null> {
  const db = drizzleOn(pool);
  const founded = await db.$count(company);
  const rows = await db.select({ id: person.id, hash: person.passwordHash }).from(person).where(eq(person.email, known.email));
  const left = rows[0] && (await verify(rows[0].hash, known.password)) ? rows[0].id : null;
  if (founded !== 0 && left === null) return null;
  // Nobody comes in with a password that everybody knows, not even until the link is used.
  if (left !== null) {
    await db.update(person).set({ passwordHash: '' }).where(eq(person.id, left));
    await db.delete(session).where(eq(session.personId, left));
  }
  const token = randomBytes(24).toString('base64url');
  return { founding: { tokenHash: hashOf(token), personId: left }, token };
}

/** Founds the business with its first person, or gives the first person of an earlier version to whoever has the link. Gives the person's id. */
export async function beginBusiness(pool: pg.Pool, founding: Founding | null, form: BodyOf<typeof contract.begin>): Promise<number> {
  if (founding === null) throw new Refusal(409, 'founded', 'The business is there already; sign in.');
  if (!timingSafeEqual(hashOf(form.token), founding.tokenHash))
    throw refuseField(422, 'no-such-link', 'token', 'This link is not the one that npm start printed last. Open that one.');
  const passwordHash = await newPassword(form.password, [form.business, form.name, form.email]);
  return transaction(pool, 'write', async (tx) => {
    await oneAfterTheOther(tx, 'founding');
    const founded = (await tx.db.$count(company)) > 0;
    if (founding.personId === null) {
      if (founded) throw new Refusal(409, 'founded', 'The business is there already; sign in.');
      return found(tx, { name: form.business }, { name: form.name, email: form.email, passwordHash });
    }
    await tx.db.update(company).set({ name: form.business });
    await tx.db.update(person).set({ name: form.name, email: form.email, passwordHash }).where(eq(person.id, founding.personId));
    return founding.personId;
  });
}
