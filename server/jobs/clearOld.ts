import { daysAnswersKept } from '@larder/contract/requestKey';
import type pg from 'pg';

/** Clears away what nobody can use any more: answers kept for repeated requests, sessions and attempts that are over. Gives how many rows. */
export async function clearOld(pool: pg.Pool, now: Date): Promise<number> {
  const cleared = await Promise.all([
    pool.query('DELETE FROM idempotency WHERE at < $1', [new Date(now.getTime() - daysAnswersKept * 86_400_000).toISOString()]),
    pool.query('DELETE FROM session WHERE expires_at < $1', [now.toISOString()]),
    pool.query('DELETE FROM known_device WHERE last_used_at < $1', [new Date(now.getTime() - 365 * 86_400_000).toISOString()]),
    pool.query('DELETE FROM sign_in_attempt WHERE expire < $1', [now.getTime()]),
  ]);
  return cleared.reduce((sum, { rowCount }) => sum + (rowCount ?? 0), 0);
}
