import type * as contract from '@larder/contract/picking';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, atSites, positive } from '../../db/given';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { itemSite, party, person, pickRound as roundTable, roundOrder, salesLine, salesOrder, site, transfer, transferLine } from '../../db/schema/index';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { picksOf } from '../../documents/picks';
import { goingOrders } from './going';
import { pickFor } from './pick';

const toSite = alias(site, 'to_site');
const free = sql`coalesce(${itemSite.free}, 0)`;
const may = sql`least(${salesLine.wanted}, ${salesLine.reserved} + ${free})`;
const shipBy = sql<string>`min(coalesce(${salesLine.shipBy}, ${salesOrder.shipBy}))`;

/** Orders of which something can be picked, each at each of the sites it comes from, by the day it ships. */
function readQueue({ tx: { db }, today }: Act, sites: readonly number[] | null, orderIds?: readonly number[]) {
  const inRound = db
    .select({ id: roundOrder.roundId, picker: person.name })
    .from(roundOrder)
    .innerJoin(roundTable, eq(roundTable.id, roundOrder.roundId))
    .innerJoin(person, eq(person.id, roundTable.pickerId))
    .where(and(eq(roundOrder.orderId, salesOrder.id), eq(roundOrder.siteId, site.id), roundOrder.open))
    .as('in_round');
  const someShort = db
    .select({ some: sql<boolean>`bool_or(short > 0)`.as('some_short') })
    .from(salesLine)
    .where(eq(salesLine.orderId, salesOrder.id))
    .as('some_short_of_order');
  return db
    .select({
      orderId: salesOrder.id,
      number: salesOrder.number,
      customer: party.name,
      siteId: site.id,
      site: site.name,
      shipBy,
      late: sql<boolean>`${shipBy} < ${today}`,
      lines: sql<number>`count(*)::int`,
      pieces: sql<string>`trim_scale(sum(${may}))::text`,
      waitsWhole: sql<boolean>`${salesOrder.whole} and ${someShort.some}`,
      roundId: sql<number | null>`${inRound.id}`,
      picker: sql<string | null>`${inRound.picker}`,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(site, eq(site.id, salesLine.siteId))
    .innerJoinLateral(someShort, sql`true`)
    .leftJoin(itemSite, and(eq(itemSite.itemId, salesLine.itemId), eq(itemSite.siteId, salesLine.siteId)))
    .leftJoinLateral(inRound, sql`true`)
    .where(
      and(
        positive(salesLine.wanted),
        sql`${salesLine.reserved} + ${free} > 0`,
        atSites(salesLine.siteId, sites),
        orderIds === undefined ? undefined : among(salesOrder.id, orderIds),
      ),
    )
    .groupBy(salesOrder.id, party.name, site.id, someShort.some, inRound.id, inRound.picker)
    .orderBy(shipBy, salesOrder.id)
    .limit(200);
}

/** Transfers of which something can be picked, by the day they are sent. */
function transfersToPick({ tx: { db }, today }: Act, sites: readonly number[] | null) {
  const mayGo = sql`least(${transferLine.wanted}, ${transferLine.reserved} + ${free})`;
  return db
    .select({
      orderId: transfer.id,
      number: transfer.number,
      customer: toSite.name,
      siteId: site.id,
      site: site.name,
      shipBy: transfer.sendBy,
      late: sql<boolean>`${transfer.sendBy} < ${today}`,
      lines: sql<number>`count(*)::int`,
      pieces: sql<string>`trim_scale(sum(${mayGo}))::text`,
    })
    .from(transferLine)
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .innerJoin(site, eq(site.id, transferLine.fromSiteId))
    .innerJoin(toSite, eq(toSite.id, transferLine.toSiteId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, transferLine.itemId), eq(itemSite.siteId, transferLine.fromSiteId)))
    .where(and(positive(transferLine.wanted), sql`${transferLine.reserved} + ${free} > 0`, atSites(transferLine.fromSiteId, sites)))
    .groupBy(transfer.id, toSite.name, site.id)
    .orderBy(transfer.sendBy, transfer.id)
    .limit(200);
}

const roundFields = {
  id: roundTable.id,
  siteId: site.id,
  site: site.name,
  pickerId: person.id,
  picker: person.name,
  startedAt: roundTable.startedAt,
};

/** What is to be picked, and the rounds that are under way. */
export async function pickQueue(act: Act, { siteId, kind }: QueryOf<typeof contract.pickQueue>): Promise<ResponseOf<typeof contract.pickQueue>> {
  const sites = act.sites('look', siteId);
  const rows = kind === 'transfer' ? [] : await readQueue(act, sites);
  const toSend = kind === 'sales' ? [] : await transfersToPick(act, sites);
  const { db } = act.tx;
  const orders = db.$count(roundOrder, eq(roundOrder.roundId, roundTable.id));
  const rounds = await db
    .select({ ...roundFields, orders: sql<number>`${orders}`.mapWith(Number) })
    .from(roundTable)
    .innerJoin(site, eq(site.id, roundTable.siteId))
    .innerJoin(person, eq(person.id, roundTable.pickerId))
    .where(and(isNull(roundTable.endedAt), atSites(roundTable.siteId, sites)))
    .orderBy(roundTable.id);
  return {
    rows: [
      ...rows.map(({ roundId, picker, ...row }) => ({
        ...row,
        kind: 'sales' as const,
        round: roundId === null || picker === null ? null : { id: roundId, picker },
      })),
      ...toSend.map((row) => ({ ...row, kind: 'transfer' as const, waitsWhole: false, round: null })),
    ].sort((a, b) => (a.shipBy < b.shipBy ? -1 : a.shipBy > b.shipBy ? 1 : 0)),
    rounds,
  };
}

/** Begins a round: its orders are in nobody else's until it is ended. */
export async function startRound(act: Act, { siteId, orderIds }: BodyOf<typeof contract.startRound>): Promise<ResponseOf<typeof contract.startRound>> {
  act.allow('outbound.ship', siteId);
  await lock.salesOrders(act, orderIds);
  const rows = (await readQueue(act, [siteId], orderIds)).filter((row) => row.siteId === siteId);
  const taken = rows.find(({ roundId }) => roundId !== null);
  if (taken) throw refuseField(409, 'in-a-round', 'orderIds', `${taken.picker} picks ${taken.number} in round ${taken.roundId}.`);
  if (rows.length < new Set(orderIds).size)
    throw refuseField(409, 'nothing-to-pick', 'orderIds', 'Of one of these orders nothing can be picked any more: look at the list again.');
  const { db } = act.tx;
  const [round] = await db.insert(roundTable).values({ siteId, pickerId: act.by.id, startedAt: act.now.toISOString() }).returning({ id: roundTable.id });
  const roundId = round?.id as number;
  await db.insert(roundOrder).values(rows.map(({ orderId }, index) => ({ roundId, orderId, siteId, slot: index + 1 })));
  return { id: roundId };
}

const readRound = prepared(['id'], (db, { id }) =>
  db
    .select({
      ...roundFields,
      endedAt: roundTable.endedAt,
      slots: jsonRows(
        { slot: roundOrder.slot, orderId: salesOrder.id, number: salesOrder.number, customer: party.name },
        (select) =>
          select
            .from(roundOrder)
            .innerJoin(salesOrder, eq(salesOrder.id, roundOrder.orderId))
            .innerJoin(party, eq(party.id, salesOrder.customerId))
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
          'sales',
          slots.map(({ orderId }) => orderId),
          [round.siteId],
        )
      : { rows: [], missing: [] };
  const slotOf = (orderId: number) => {
    const { slot = 0, number = '' } = slots.find((one) => one.orderId === orderId) ?? {};
    return { slot, number };
  };
  return {
    ...round,
    orders: slots.length,
    rows: rows.map((row) => ({ ...row, ...slotOf(row.orderId) })),
    missing: missing.map(({ orderId, ...line }) => ({ ...line, number: slotOf(orderId).number })),
  };
}

/** Takes goods to the bench for the orders of a round, by who picks it. */
export async function pickRound(act: Act, id: number, form: BodyOf<typeof contract.pickRound>): Promise<Posting> {
  const round = await roundOf(act, id);
  act.allow('outbound.ship', round.siteId);
  if (round.endedAt !== null) throw new Refusal(409, 'ended', `Round ${id} is ended; what is left of its orders is in the list of what is to be picked.`);
  if (round.pickerId !== act.by.id) throw new Refusal(409, 'others-round', `${round.picker} picks this round.`);
  const orders = await goingOrders(
    act,
    round.slots.map(({ orderId }) => orderId),
  );
  const posting = await pickFor(act, orders, form);
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
