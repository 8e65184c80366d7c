import { afterChange, afterReceipt, emptyTally, type DeskChange, type Tally } from '@larder/core/inbound/tally';
import { eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { deskTally, documentLine } from '../../db/schema/index';

interface Kept {
  tally: Tally;
  version: number;
}

const keptKeys = 2000;

/** What the person has counted at the desk and not received yet. */
export async function tallyOf({ tx, by }: Act): Promise<Kept> {
  const [kept] = await tx.db.select({ tally: deskTally.tally, version: deskTally.version }).from(deskTally).where(eq(deskTally.personId, by.id));
  return kept ?? { tally: emptyTally, version: 0 };
}

/** Adds what was done at the desk, on whichever machine; what is sent a second time is known by its key and passed over. */
export async function changeTally(act: Act, changes: readonly DeskChange[]): Promise<Kept> {
  const { tx, by, now } = act;
  await allowLines(act, changes);
  await tx.db.insert(deskTally).values({ personId: by.id, tally: emptyTally, changedAt: now.toISOString() }).onConflictDoNothing();
  const [was] = await lockedTally(tx, by.id);
  if (!was) throw new Error('the tally was just made');
  const done = new Set(was.done);
  let { tally } = was;
  for (const change of changes) {
    if (done.has(change.key)) continue;
    done.add(change.key);
    tally = afterChange(tally, change);
  }
  return keep(tx, by.id, now, tally, was.version + 1, [...done].slice(-keptKeys));
}

/** What is counted on lines of an order needs the right at the order's site; the rest is the person's own. */
async function allowLines(act: Act, changes: readonly DeskChange[]): Promise<void> {
  act.allowOwn('inbound.receive');
  const lineIds = changes.flatMap((change) => (change.what === 'scan' ? change.parts : change.what === 'put' ? change.lines : []).map(({ lineId }) => lineId));
  if (lineIds.length === 0) return;
  const sites = await act.tx.db
    .selectDistinct({ id: sql<number>`coalesce(${documentLine.bringsToId}, ${documentLine.siteId})` })
    .from(documentLine)
    .where(among(documentLine.id, lineIds));
  for (const { id } of sites) act.allow('inbound.receive', id);
}

/** Takes what was received off what the person has counted; what was set aside stays. */
export async function clearTally({ tx, by, now }: Act, lineIds: readonly number[]): Promise<void> {
  const [was] = await lockedTally(tx, by.id);
  if (!was) return;
  await keep(tx, by.id, now, afterReceipt(was.tally, lineIds), was.version + 1, was.done);
}

const lockedTally = async ({ db }: Act['tx'], personId: number) =>
  db.select({ tally: deskTally.tally, version: deskTally.version, done: deskTally.done }).from(deskTally).where(eq(deskTally.personId, personId)).for('update');

async function keep({ db }: Act['tx'], personId: number, now: Date, tally: Tally, version: number, done: readonly string[]): Promise<Kept> {
  await db
    .update(deskTally)
    .set({ tally, version, done: [...done], changedAt: now.toISOString() })
    .where(eq(deskTally.personId, personId));
  return { tally, version };
}
