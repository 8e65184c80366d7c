import type * as contract from '@larder/contract/workOrders';
import type { BodyOf } from '@larder/contract/endpoint';
import { addDays, daysBetween } from '@larder/core/day';
import { decimal, greatest, zero, type Decimal } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { updateRows } from '../../db/given';
import { documentLine, workOrder } from '../../db/schema/index';
import { recordChanges, refuseStale } from '../../documents/changes';
import { changeDemand, type DecidedLine } from '../../ledger/changeDemand';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { workNow, type WorkNowRow } from './orderQueries';
import { refuseDays } from './orderChecks';
import type { OrderHead } from './orderLines';

/** A work order to be changed or decided on: locked, as the person saw it, at a site where they may. */
export async function takeWorkOrder(
  act: Act,
  id: number,
  version: number | null,
  right: 'making.plan' | 'making.record' | 'outbound.ship' = 'making.plan',
): Promise<WorkNowRow> {
  await lock.workOrders(act, [id]);
  const now = await workNow(act, id);
  act.allow(right, now.siteId);
  if (version !== null) refuseStale(version, now.version, now.number);
  return now;
}

/** Refuses what is done to an order that has ended. */
export function refuseEnded({ ended, cancelled, number }: WorkNowRow): void {
  if (ended) throw new Refusal(409, 'ended', `${number} ${cancelled ? 'is cancelled' : 'is completed'}; nothing more is done on it.`);
}

export const orderHead = (now: WorkNowRow): OrderHead => ({ ...now, active: now.released && !now.ended });

/** Makes it on another day: its parts are wanted for that day, and it is due as many days later as before. */
export async function moveWorkOrder(act: Act, id: number, { version, startsOn }: BodyOf<typeof contract.moveWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  refuseEnded(now);
  const dueOn = addDays(startsOn, daysBetween(now.startsOn, now.dueOn));
  refuseDays({ startsOn, dueOn }, act.today);
  return decide(
    act,
    now,
    (line) => (now.released ? { wanted: greatest(decimal(line.needed).minus(line.taken), zero), neededOn: startsOn } : null),
    async () => {
      await updateRows(act.tx, workOrder, [{ id, startsOn, dueOn, version: now.version + 1 }]);
      await updateRows(act.tx, documentLine, [
        ...now.lines.map((line) => ({ id: line.id, neededOn: startsOn })),
        ...now.products.map((line) => ({ id: line.id, neededOn: dueOn })),
      ]);
      await recordChanges(act, 'work order', id, { startsOn: now.startsOn, dueOn: now.dueOn }, { startsOn, dueOn });
    },
  );
}

/** Changes what the components of an order want of its site. `becomes`: null for a line that wants what it wanted. */
export async function decide(
  act: Act,
  now: WorkNowRow,
  becomes: (line: WorkNowRow['lines'][number]) => { wanted: Decimal; neededOn: string } | 'ended' | 'wanted' | null,
  write: () => Promise<void>,
): Promise<Posting> {
  const kept = now.lines.filter(({ stocked }) => stocked);
  await lock.pools(
    act,
    kept.map(({ itemId }) => itemId),
  );
  const decided = kept.flatMap((line): DecidedLine[] => {
    const is = becomes(line);
    if (is === null) return [];
    return [{ id: line.id, itemId: line.itemId, siteId: now.siteId, becomes: typeof is === 'string' ? is : { siteId: now.siteId, promisedOn: null, ...is } }];
  });
  const effects = await changeDemand(act, { decided }, async () => {
    await write();
    return undefined;
  });
  return { movementId: null, effects };
}

/** Releases a work order: its parts are wanted from now on. */
export async function releaseWorkOrder(act: Act, id: number, { version }: BodyOf<typeof contract.releaseWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  refuseEnded(now);
  if (now.released) throw new Refusal(409, 'released-already', `${now.number} is released already.`);
  return decide(
    act,
    now,
    () => 'wanted',
    () => setDecision(act, now, { releasedAt: act.now.toISOString(), releasedBy: act.by.id }, 'released'),
  );
}

/** Takes the release back: nothing is reserved for it any more. */
export async function holdWorkOrder(act: Act, id: number, { version }: BodyOf<typeof contract.holdWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  refuseEnded(now);
  if (!now.released) throw new Refusal(409, 'not-released', `${now.number} is not released.`);
  if (now.lines.some((line) => Number(line.taken) > 0) || now.records.some(({ undone }) => !undone))
    throw new Refusal(409, 'begun', `Parts were taken for ${now.number} already. Bring them back first.`);
  return decide(
    act,
    now,
    () => 'ended',
    () => setDecision(act, now, { releasedAt: null, releasedBy: null }, 'planned'),
  );
}

/** Cancels an order of which nothing is at the work any more: nothing is wanted for it from now on. */
export const endCancelled = (act: Act, now: WorkNowRow): Promise<Posting> =>
  decide(
    act,
    now,
    () => (now.released ? 'ended' : null),
    () => setDecision(act, now, { cancelledAt: act.now.toISOString(), cancelledBy: act.by.id }, 'cancelled'),
  );

/** Opens a cancelled work order again. */
export async function reopenWorkOrder(act: Act, id: number, { version }: BodyOf<typeof contract.reopenWorkOrder>): Promise<Posting> {
  const now = await takeWorkOrder(act, id, version);
  if (now.apart) throw new Refusal(409, 'taken-apart', `${now.number} was undone: take it apart anew.`);
  if (!now.cancelled) throw new Refusal(409, 'not-cancelled', `${now.number} is not cancelled.`);
  if (now.restOf !== null) throw new Refusal(409, 'rest-of', `${now.number} was the rest of ${now.restOf.number}, which goes on with it now.`);
  return decide(
    act,
    now,
    () => (now.released ? 'wanted' : null),
    () => setDecision(act, now, { cancelledAt: null, cancelledBy: null }, 'open again'),
  );
}

/** Writes a decision; the order is another version from now on. */
export async function setDecision(act: Act, now: Pick<WorkNowRow, 'id' | 'version'>, set: Partial<typeof workOrder.$inferInsert>, said: string): Promise<void> {
  await act.tx.db
    .update(workOrder)
    .set({ ...set, version: now.version + 1 })
    .where(eq(workOrder.id, now.id));
  await recordChanges(act, 'work order', now.id, {}, { decided: said });
}
