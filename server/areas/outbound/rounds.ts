import type * as contract from '@larder/contract/picking';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { item, party, person, pickRound as roundTable, roundOrder, salesOrder, site, transfer, workOrder } from '../../db/schema/index';
import { takeToBench, type GoingOut } from '../../documents/goingOut';
import { pickedKinds, picksOf, type PickedFor } from '../../documents/picks';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { goingWork } from '../making/service';
import { goingTransfers } from '../transfers/service';
import { goingOrders } from './going';
import { roundFields, toPick } from './pickQueue';

const toSite = alias(site, 'to_site');

/** Begins a round: its orders, transfers and work orders are in nobody else's until it is ended. */
export async function startRound(
  act: Act,
  { siteId, orderIds, transferIds, workOrderIds }: BodyOf<typeof contract.startRound>,
): Promise<ResponseOf<typeof contract.startRound>> {
  act.allow('outbound.ship', siteId);
  await lock.salesOrders(act, orderIds);
  await lock.transfers(act, transferIds);
  await lock.workOrders(act, workOrderIds);
  const rows = await toPick(act, [siteId], { sales: orderIds, transfer: transferIds, work: workOrderIds });
  const taken = rows.find(({ roundId }) => roundId !== null);
  const fields = { sales: 'orderIds', transfer: 'transferIds', work: 'workOrderIds' } as const;
  const asked = { sales: orderIds, transfer: transferIds, work: workOrderIds };
  const field = (row?: { kind: PickedFor['kind'] }) => fields[row?.kind ?? pickedKinds.find((kind) => asked[kind].length > 0) ?? 'sales'];
  if (taken) throw refuseField(409, 'in-a-round', field(taken), `${taken.picker} picks ${taken.number} in round ${taken.roundId}.`);
  if (rows.length < pickedKinds.reduce((all, kind) => all + new Set(asked[kind]).size, 0))
    throw refuseField(409, 'nothing-to-pick', field(), 'Of one of these nothing can be picked any more: look at the list again.');
  const { db } = act.tx;
  const [round] = await db.insert(roundTable).values({ siteId, pickerId: act.by.id, startedAt: act.now.toISOString() }).returning({ id: roundTable.id });
  const roundId = round?.id as number;
  await db.insert(roundOrder).values(
    rows.map(({ kind, orderId }, index) => ({
      roundId,
      orderId: kind === 'sales' ? orderId : null,
      transferId: kind === 'transfer' ? orderId : null,
      workOrderId: kind === 'work' ? orderId : null,
      siteId,
      slot: index + 1,
    })),
  );
  return { id: roundId };
}

const readRound = prepared(['id'], (db, { id }) =>
  db
    .select({
      ...roundFields,
      endedAt: roundTable.endedAt,
      slots: jsonRows(
        {
          slot: roundOrder.slot,
          kind: sql<
            PickedFor['kind']
          >`case when ${roundOrder.orderId} is not null then 'sales' when ${roundOrder.transferId} is not null then 'transfer' else 'work' end`,
          orderId: sql<number>`coalesce(${roundOrder.orderId}, ${roundOrder.transferId}, ${roundOrder.workOrderId})`,
          number: sql<string>`coalesce(${salesOrder.number}, ${transfer.number}, ${workOrder.number})`,
          customer: sql<string>`coalesce(${party.name}, ${toSite.name}, ${item.sku})`,
        },
        (select) =>
          select
            .from(roundOrder)
            .leftJoin(salesOrder, eq(salesOrder.id, roundOrder.orderId))
            .leftJoin(party, eq(party.id, salesOrder.customerId))
            .leftJoin(transfer, eq(transfer.id, roundOrder.transferId))
            .leftJoin(toSite, eq(toSite.id, transfer.toSiteId))
            .leftJoin(workOrder, eq(workOrder.id, roundOrder.workOrderId))
            .leftJoin(item, eq(item.id, workOrder.itemId))
            .where(eq(roundOrder.roundId, roundTable.id)),
        { orderBy: roundOrder.slot },
      ),
    })
    .from(roundTable)
    .innerJoin(site, eq(site.id, roundTable.siteId))
    .innerJoin(person, eq(person.id, roundTable.pickerId))
    .where(sql`${roundTable.id} = ${id}`),
);

async function roundOf({ tx }: Act, id: number) {
  const [round] = await readRound(tx, { id });
  if (!round) throw new Refusal(404, 'not-found', 'There is no such round.');
  return round;
}

/** A round with what is still to be taken for it, in walking order; once it is ended, nothing. */
export async function getRound(act: Act, id: number): Promise<ResponseOf<typeof contract.getRound>> {
  const round = await roundOf(act, id);
  act.allow('look', round.siteId);
  const { slots } = round;
  const { rows, missing } =
    round.endedAt === null
      ? await picksOf(
          act,
          slots.map(({ kind, orderId }) => ({ kind, id: orderId })),
          [round.siteId],
        )
      : { rows: [], missing: [] };
  const slotOf = (of: { kind: string; orderId: number }) => {
    const { slot = 0, number = '' } = slots.find((one) => one.orderId === of.orderId && one.kind === of.kind) ?? {};
    return { slot, number };
  };
  return {
    ...round,
    orders: slots.length,
    rows: rows.map((row) => ({ ...row, ...slotOf(row) })),
    missing: missing.map(({ orderId, kind, ...line }) => ({ ...line, number: slotOf({ kind, orderId }).number })),
  };
}

/** Takes goods to the bench for the orders of a round, by who picks it. */
export async function pickRound(act: Act, id: number, form: BodyOf<typeof contract.pickRound>): Promise<Posting> {
  const round = await roundOf(act, id);
  act.allow('outbound.ship', round.siteId);
  if (round.endedAt !== null) throw new Refusal(409, 'ended', `Round ${id} is ended; what is left of its orders is in the list of what is to be picked.`);
  if (round.pickerId !== act.by.id) throw new Refusal(409, 'others-round', `${round.picker} picks this round.`);
  const idsOf = (kind: PickedFor['kind']) => round.slots.flatMap((one) => (one.kind === kind ? [one.orderId] : []));
  const going: GoingOut[] = [
    ...(await goingOrders(act, idsOf('sales'))),
    ...(await goingTransfers(act, idsOf('transfer'))),
    ...(await goingWork(act, idsOf('work'))),
  ];
  const all = { number: going.map(({ number }) => number).join(', '), lines: new Map(going.flatMap(({ lines }) => [...lines])) };
  const posting = await takeToBench(act, all, form);
  if (form.ends && !act.tx.readOnly) await close(act, id);
  return posting;
}

/** Ends a round, one's own or one that somebody left: what is not picked may be picked by others. */
export async function endRound(act: Act, id: number): Promise<ResponseOf<typeof contract.endRound>> {
  const round = await roundOf(act, id);
  act.allow('outbound.ship', round.siteId);
  await close(act, id);
  return { id };
}

async function close({ tx: { db }, now }: Act, id: number): Promise<void> {
  await db
    .update(roundTable)
    .set({ endedAt: now.toISOString() })
    .where(and(eq(roundTable.id, id), isNull(roundTable.endedAt)));
  await db.update(roundOrder).set({ open: false }).where(eq(roundOrder.roundId, id));
}
