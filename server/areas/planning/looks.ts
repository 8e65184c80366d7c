import type * as contract from '@larder/contract/levels';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { desc, eq, gt } from 'drizzle-orm';
import type pg from 'pg';
import type { Act } from '../../act';
import { transaction } from '../../db/database';
import { oneAfterTheOther } from '../../db/functions';
import { company, person, suggestionRun } from '../../db/schema/index';
import type { Looking } from './look';

/** A look that was not heard of for so long, in milliseconds, has died with its server. */
const silence = 60_000;

async function last({ tx: { db }, now }: Act): Promise<contract.Look | null> {
  const [row] = await db
    .select({
      id: suggestionRun.id,
      askedAt: suggestionRun.askedAt,
      askedBy: person.name,
      startedAt: suggestionRun.startedAt,
      heardAt: suggestionRun.heardAt,
      endedAt: suggestionRun.endedAt,
      stopped: suggestionRun.stopped,
      done: suggestionRun.done,
      total: suggestionRun.total,
      fault: suggestionRun.fault,
    })
    .from(suggestionRun)
    .leftJoin(person, eq(person.id, suggestionRun.askedBy))
    .orderBy(desc(suggestionRun.id))
    .limit(1);
  if (!row) return null;
  const { startedAt, heardAt, stopped, ...look } = row;
  const died = look.endedAt === null && now.getTime() - Date.parse(heardAt ?? look.askedAt) > silence;
  if (died) return { ...look, state: 'failed', fault: 'The server stopped in the middle; the items that were not reached are as they were.' };
  if (look.endedAt === null) return { ...look, state: startedAt === null ? 'waiting' : 'looking' };
  return { ...look, state: look.fault !== '' ? 'failed' : stopped ? 'stopped' : 'done' };
}

export const lastLook = async (act: Act): Promise<ResponseOf<typeof contract.lastLook>> => ({ look: await last(act) });

/** Asks for a look at the past of all items, which goes on by itself after this is kept; refused while one is under way. */
export async function startLook(act: Act, begin: (looking: Looking) => void): Promise<ResponseOf<typeof contract.startLook>> {
  const { tx, now, by } = act;
  await oneAfterTheOther(tx, 'look at the past');
  const before = await last(act);
  if (before?.state === 'waiting' || before?.state === 'looking') throw new Refusal(409, 'under-way', 'The past is being looked at already.');
  const [run] = await tx.db.insert(suggestionRun).values({ askedAt: now.toISOString(), askedBy: by.id }).returning({ id: suggestionRun.id });
  if (!run) throw new Error('the run was written');
  tx.after(() => begin({ runId: run.id, now }));
  return { look: (await last(act)) as contract.Look };
}

/** Asks for a look by itself, where nobody has asked for one within a week: answers which, or null. */
export const dueLook = (pool: pg.Pool, now: Date): Promise<number | null> =>
  transaction(pool, 'write', async (tx) => {
    await oneAfterTheOther(tx, 'look at the past');
    const weekAgo = new Date(now.getTime() - 7 * 86_400_000).toISOString();
    const [recent] = await tx.db.select({ id: suggestionRun.id }).from(suggestionRun).where(gt(suggestionRun.askedAt, weekAgo)).limit(1);
    const [business] = recent ? [] : await tx.db.select({ id: company.id }).from(company);
    if (!business) return null;
    const [run] = await tx.db.insert(suggestionRun).values({ askedAt: now.toISOString() }).returning({ id: suggestionRun.id });
    return run?.id ?? null;
  });

export async function stopLook(act: Act, id: number): Promise<Record<string, never>> {
  const before = await last(act);
  if (before?.id !== id || (before.state !== 'waiting' && before.state !== 'looking'))
    throw new Refusal(409, 'not-under-way', 'The past is not being looked at.');
  await act.tx.db.update(suggestionRun).set({ stopped: true }).where(eq(suggestionRun.id, id));
  return {};
}
