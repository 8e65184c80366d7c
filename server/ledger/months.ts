import { addDays, dayOf, lastOfMonth } from '@larder/core/day';
import { max, min, sql } from 'drizzle-orm';
import type pg from 'pg';
import { transaction } from '../db/database';
import { closeMonth } from '../db/functions';
import { company, keptMonth, movementLine } from '../db/schema/index';

/** How far back the ends of months are kept, in days; what lies further back is reckoned from the first movement on. */
const reach = 1100;

/**
 * Keeps the ends of the months that have ended and are not kept yet, from the first movement on, each in a transaction of its own: what lay where, and what it was worth.
 * Any past day is reckoned from the end before it. Answers which months were kept.
 */
export async function closeMonths(pool: pg.Pool, now: Date): Promise<string[]> {
  const ends = await transaction(pool, 'snapshot', async ({ db }) => {
    const [business] = await db.select({ zone: company.timeZone }).from(company);
    if (!business) return [];
    const [kept] = await db.select({ month: max(keptMonth.month) }).from(keptMonth);
    const [first] = kept?.month ? [{ day: addDays(kept.month, 1) }] : await db.select({ day: min(movementLine.effectiveOn) }).from(movementLine);
    const today = dayOf(now, business.zone);
    const found: string[] = [];
    if (!first?.day) return found;
    const [from, oldest] = [first.day, addDays(today, -reach)].map((day) => lastOfMonth(day.slice(0, 7))) as [string, string];
    for (let end = kept?.month || from > oldest ? from : oldest; end < today; end = lastOfMonth(addDays(end, 1).slice(0, 7))) found.push(end);
    return found;
  });
  for (const month of ends)
    await transaction(pool, 'write', async (tx) => {
      // Sooner than the database looks for two that wait for each other: whoever posts goes first, and this is done within the hour.
      await tx.db.execute(sql`set local lock_timeout = '500ms'`);
      await closeMonth(tx, month);
    });
  return ends;
}
