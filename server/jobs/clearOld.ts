import { lt } from 'drizzle-orm';
import { daysAnswersKept } from '@larder/contract/requestKey';
import type pg from 'pg';
import { drizzleOn } from '../db/database';
import { idempotency, knownDevice, session, signInAttempt } from '../db/schema/index';

/** Clears away what nobody can use any more: answers kept for repeated requests, sessions and attempts that are over. Gives how many rows. */
export async function clearOld(pool: pg.Pool, now: Date): Promise<number> {
  const db = drizzleOn(pool);
  const daysAgo = (days: number) => new Date(now.getTime() - days * 86_400_000).toISOString();
  const cleared = [
    await db.delete(idempotency).where(lt(idempotency.at, daysAgo(daysAnswersKept))),
    await db.delete(session).where(lt(session.expiresAt, now.toISOString())),
    await db.delete(knownDevice).where(lt(knownDevice.lastUsedAt, daysAgo(365))),
    await db.delete(signInAttempt).where(lt(signInAttempt.expire, now.getTime())),
  ];
  return cleared.reduce((sum, { rowCount }) => sum + (rowCount ?? 0), 0);
}
