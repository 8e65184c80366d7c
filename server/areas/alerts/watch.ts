import { grantedAt, grantedSomewhere } from '@larder/contract/rights';
import { dayOf } from '@larder/core/day';
import { alertKinds, happenings, isRoundUpDue, isWanted, roundUpText, type AlertKind } from '@larder/core/planning/alerts';
import { and, eq, lt, sql } from 'drizzle-orm';
import type pg from 'pg';
import { drizzleOn, transaction, type Tx } from '../../db/database';
import { oneAfterTheOther } from '../../db/functions';
import { among, given, insertRows } from '../../db/given';
import { alert, alertPerson, alertState, alertWish, company, person } from '../../db/schema/index';
import { tellPerson } from '../../documents/notice';
import { personFields } from '../../http/session';
import { conditions, ofStock, type Found } from './conditions';

interface Watching {
  pool: pg.Pool;
  now: Date;
  /** Where people open it. */
  address: string;
}

interface Begun extends Found {
  kind: AlertKind;
}

/** Happenings are forgotten after so many days, when they are told no more. */
const forgotten = 30;

/** Looks at what is so of items that something changed of, and tells whoever wants to know what began. Answers how many were told. */
export const watchSome = (watching: Watching, itemIds: readonly number[]): Promise<number> => watch(watching, ofStock, [...new Set(itemIds)]);

/** The same of everything: for what time alone causes, and for whatever nobody looked at. */
export const watchAll = (watching: Watching): Promise<number> => watch(watching, alertKinds, null);

async function watch({ pool, now, address }: Watching, kinds: readonly AlertKind[], itemIds: readonly number[] | null): Promise<number> {
  return transaction(pool, 'write', async (tx) => {
    // Who looks first tells, and nobody else does.
    await oneAfterTheOther(tx, 'alerts');
    const [business] = await tx.db.select({ zone: company.timeZone, name: company.name }).from(company);
    if (!business) return 0;
    const asked = { today: dayOf(now, business.zone), itemIds };
    const begun: Begun[] = [];
    for (const kind of kinds) begun.push(...(await changed(tx, kind, await conditions[kind](tx.db, asked), itemIds, now)));
    return begun.length === 0 ? 0 : tell(tx, begun, { now, address, business: business.name });
  });
}

/** Keeps what is so of a kind, and forgets what is not any more; answers what began. */
async function changed(tx: Tx, kind: AlertKind, found: readonly Found[], itemIds: readonly number[] | null, now: Date): Promise<Begun[]> {
  const { db } = tx;
  const subjects = found.map(({ subject }) => subject);
  const ofKind = eq(alertState.kind, kind);
  const isGone = sql`not ${among(alertState.subject, subjects)}`;
  const longAgo = new Date(now.getTime() - forgotten * 86_400_000).toISOString();
  if (happenings.includes(kind)) await db.delete(alertState).where(and(ofKind, lt(alertState.since, longAgo)));
  else if (itemIds === null) await db.delete(alertState).where(and(ofKind, isGone));
  // Of some items only these have ended; which orders those were on is seen when all is looked at.
  else if (kind !== 'short') await db.delete(alertState).where(and(ofKind, among(sql`split_part(${alertState.subject}, '/', 1)::int`, itemIds), isGone));
  if (found.length === 0) return [];
  const rows = found.map(({ subject, siteId, categoryId, text, leadsTo }) => ({ kind, subject, since: now.toISOString(), siteId, categoryId, text, leadsTo }));
  const { subject } = alertState;
  const there = given(
    'there',
    { subject },
    rows.map((row) => ({ subject: row.subject })),
  );
  const known = new Set(
    (await db.select({ subject }).from(alertState).innerJoin(there.rows, eq(subject, there.row.subject)).where(ofKind)).map((row) => row.subject),
  );
  await insertRows(
    tx,
    alertState,
    rows,
    sql`on conflict (kind, subject) do update set text = excluded.text, site_id = excluded.site_id, category_id = excluded.category_id`,
  );
  return found.filter((one) => !known.has(one.subject)).map((one) => ({ ...one, kind }));
}

/** People who work here, and what each wants to be told. */
async function readWishes(tx: Tx) {
  return tx.db
    .select({
      ...personFields,
      kind: alertWish.kind,
      siteIds: alertWish.siteIds,
      categoryIds: alertWish.categoryIds,
      how: alertWish.how,
      byMail: alertWish.byMail,
    })
    .from(alertWish)
    .innerJoin(person, and(eq(person.id, alertWish.personId), person.active));
}

/** Tells what began to everyone who wants to know it at once, and may look there: on screen, and by mail where they say so. */
async function tell(tx: Tx, begun: readonly Begun[], { now, address, business }: { now: Date; address: string; business: string }): Promise<number> {
  const wishes = (await readWishes(tx)).filter(({ how }) => how === 'at once');
  const at = now.toISOString();
  let told = 0;
  for (const wish of wishes)
    for (const one of begun) {
      if (!isWanted(wish, one) || !maySee(wish.grants, one.siteId)) continue;
      const { kind, subject, siteId, text, leadsTo } = one;
      const [first] = await tx.db
        .insert(alert)
        .values({ personId: wish.id, kind, subject, since: at, at, siteId, text, leadsTo })
        .onConflictDoNothing()
        .returning({ id: alert.id });
      if (!first) continue;
      told += 1;
      if (!wish.byMail || wish.email === '') continue;
      const letterId = await tellPerson({ tx, now }, { ...wish, business }, letterOf(one, address));
      await tx.db.update(alert).set({ letterId }).where(eq(alert.id, first.id));
    }
  return told;
}

const maySee = (grants: Parameters<typeof grantedAt>[0], siteId: number | null): boolean =>
  siteId === null ? grantedSomewhere(grants, 'look') : grantedAt(grants, 'look', siteId);

const letterOf = ({ kind, text, leadsTo }: Begun, address: string) => ({
  subject: text,
  text: [`${text}.`, '', `Open it: ${address}${leadsTo}`, '', `Be told of this no more: ${address}/alerts/settings?stop=${kind}`].join('\n'),
  leadsTo,
});

/** Sends round-ups whose time of day has come: to each person one, of all that is so then and that they want so. Answers how many. */
export async function sendRoundUps({ pool, now, address }: Watching): Promise<number> {
  const db = drizzleOn(pool);
  const [business] = await db.select({ zone: company.timeZone, name: company.name }).from(company);
  if (!business) return 0;
  const today = dayOf(now, business.zone);
  const clock = new Intl.DateTimeFormat('en-GB', { timeZone: business.zone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(now);
  return transaction(pool, 'write', async (tx) => {
    await oneAfterTheOther(tx, 'alerts');
    const wishes = (await readWishes(tx)).filter(({ how }) => how === 'round-up');
    const people = new Map(wishes.map((wish) => [wish.id, wish]));
    let sent = 0;
    for (const one of people.values()) {
      await tx.db.insert(alertPerson).values({ personId: one.id }).onConflictDoNothing();
      const [own] = await tx.db.select().from(alertPerson).where(eq(alertPerson.personId, one.id));
      if (!own || !isRoundUpDue({ at: own.roundUpAt, now: clock, today, last: own.roundedUpOn })) continue;
      await tx.db.update(alertPerson).set({ roundedUpOn: today }).where(eq(alertPerson.personId, one.id));
      const mine = wishes.filter(({ id }) => id === one.id);
      const states = await tx.db
        .select()
        .from(alertState)
        .where(
          among(
            alertState.kind,
            mine.map(({ kind }) => kind),
          ),
        )
        .orderBy(alertState.since, alertState.subject);
      const found = states.filter((state) => mine.some((wish) => isWanted(wish, state)) && maySee(one.grants, state.siteId));
      if (found.length === 0) continue;
      const { subject, text } = roundUpText(found, address);
      const isMailed = mine.some(({ byMail }) => byMail) && one.email !== '';
      const letterId = isMailed ? await tellPerson({ tx, now }, { ...one, business: business.name }, { subject, text, leadsTo: '/alerts' }) : null;
      const at = now.toISOString();
      await tx.db
        .insert(alert)
        .values({ personId: one.id, kind: 'round-up', subject: today, since: at, at, siteId: null, text: subject, leadsTo: '/alerts', letterId });
      sent += 1;
    }
    return sent;
  });
}
