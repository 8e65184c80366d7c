import type * as contract from '@larder/contract/outbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { dayInWords } from '@larder/core/day';
import { together } from '@larder/core/ledger/effects';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { item, movementLine, reservation, salesLine, salesOrder } from '../../db/schema/index';
import { changeOrder, recordOrder, refuseDecision, refuseRetiredSite, takeOrder } from '../../documents/orders';
import { refuseOnOrder } from '../../documents/supplies';
import { fitWork, workOfSale } from '../making/service';
import { bringFor } from './bring';
import { refuseOverLimit } from './customers';
import { changeDemand } from '../../ledger/changeDemand';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';

/** Confirms a quote: what is free is reserved for it, the rest of each line is short and served as stock comes. */
export async function confirmSale(act: Act, id: number, { version, free, expired, overLimit }: BodyOf<typeof contract.confirmSale>): Promise<Posting> {
  const order = await takeOrder(act, 'sales', id, version);
  refuseDecision('sales', order, 'decide');
  await refuseDoubtful(act, order, { free, expired });
  const work = await workOfSale(
    act,
    id,
    order.lines.map(({ itemId }) => itemId),
  );
  const { effects } = await decide(act, order, true, 'confirmed', { confirmedAt: act.now.toISOString(), confirmedBy: act.by.id });
  const made = await fitWork(act, order, work);
  const brought = await bringFor(act, order);
  await refuseOverLimit(act, order, overLimit);
  return { movementId: null, effects: together(together(effects, made), brought) };
}

/** What is asked about before an order is confirmed: its first line that costs the customer nothing, and how long its prices are offered. */
const readDoubtful = prepared(['id'], (db, { id }) =>
  db
    .select({
      validUntil: salesOrder.validUntil,
      free: jsonRows(
        { sku: item.sku, position: salesLine.position },
        (select) =>
          select
            .from(salesLine)
            .innerJoin(item, eq(item.id, salesLine.itemId))
            .where(and(eq(salesLine.orderId, salesOrder.id), eq(salesLine.amount, '0'))),
        { orderBy: salesLine.position },
      ),
    })
    .from(salesOrder)
    .where(sql`${salesOrder.id} = ${id}`),
);

/** Asks before something is given away, and before prices are agreed that are offered no longer. */
async function refuseDoubtful({ tx, today }: Act, order: { id: number; number: string }, said: { free: boolean; expired: boolean }): Promise<void> {
  const [row] = await readDoubtful(tx, { id: order.id });
  const [given] = row?.free ?? [];
  if (given && !said.free)
    throw refuseField(409, 'free', `lines.${given.position - 1}.price`, `${given.sku} costs the customer nothing. Confirm it all the same?`, ['free']);
  const until = row?.validUntil ?? null;
  if (until !== null && until < today && !said.expired)
    throw refuseField(409, 'expired', 'validUntil', `The prices of ${order.number} were offered until ${dayInWords(until)}. Confirm it at them all the same?`, [
      'expired',
    ]);
}

/**
 * Cancels an order nothing of which is picked, or the rest of one, or makes it a quote again: what it held goes to those who are short. Or takes that back: what is
 * free then is reserved for it again, and the rest is short.
 */
export async function endSale(act: Act, id: number, { decision, version }: BodyOf<typeof contract.endSale>): Promise<Posting> {
  const order = await takeOrder(act, 'sales', id, version);
  refuseDecision('sales', order, decision);
  const work = await workOfSale(
    act,
    id,
    order.lines.map(({ itemId }) => itemId),
  );
  const { effects } = await ended(act, order, decision);
  const made = await fitWork(act, order, work, { ends: decision !== 'reopen' || !order.decided });
  return { movementId: null, effects: together(effects, made) };
}

async function ended(act: Act, order: Awaited<ReturnType<typeof takeOrder>>, decision: BodyOf<typeof contract.endSale>['decision']): Promise<Posting> {
  const now = act.now.toISOString();
  if (decision === 'reopen') {
    await refuseRetiredSite(act, order.siteId);
    const posting = await decide(act, order, order.decided, 'opened again', { cancelledAt: null, cancelledBy: null, closedAt: null, closedBy: null });
    await refuseOverLimit(act, order, true);
    return posting;
  }
  if (decision === 'withdraw') return withdraw(act, order);
  await refuseOnOrder(
    act,
    order.number,
    order.lines.map(({ id }) => id),
  );
  return decision === 'cancel'
    ? decide(act, order, false, 'cancelled', { cancelledAt: now, cancelledBy: act.by.id })
    : decide(act, order, false, 'rest cancelled', { closedAt: now, closedBy: act.by.id });
}

/** Makes a confirmed order a quote again. Of lines that goods moved for, even there and back, the trail tells: such an order stays what it is. */
async function withdraw(act: Act, order: Awaited<ReturnType<typeof takeOrder>>): Promise<Posting> {
  const { db, readOnly } = act.tx;
  const lineIds = order.lines.map(({ id }) => id);
  if ((await db.$count(movementLine, among(movementLine.demandLineId, lineIds))) > 0)
    throw new Refusal(409, 'begun', `Goods of ${order.number} were picked before, even if that was undone. Cancel it, and copy it for another quote.`);
  await refuseOnOrder(act, order.number, lineIds, { ever: true });
  const posting = await decide(act, order, false, 'a quote again', { confirmedAt: null, confirmedBy: null });
  // Nothing is promised to them any more; a quote's lines come and go as they are typed.
  if (!readOnly) await db.delete(reservation).where(among(reservation.lineId, lineIds));
  return posting;
}

async function decide(
  act: Act,
  order: Awaited<ReturnType<typeof takeOrder>>,
  active: boolean,
  word: string,
  decision: Partial<typeof salesOrder.$inferInsert>,
): Promise<Posting> {
  const lines = order.lines.filter(({ stocked }) => stocked);
  for (const { siteId } of lines) act.allow('outbound.sell', siteId);
  await lock.pools(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const decided = lines.map(({ id, itemId, siteId }) => ({ id, itemId, siteId, becomes: active ? ('wanted' as const) : ('ended' as const) }));
  const effects = await changeDemand(act, { decided }, async () => {
    await changeOrder<typeof salesOrder>(act, 'sales', order, decision);
    await recordOrder(act, 'sales', order.id, {}, { decision: word });
    return undefined;
  });
  return { movementId: null, effects };
}
