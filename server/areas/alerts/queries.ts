import type * as contract from '@larder/contract/alerts';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, gt, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../../act';
import { atSitesOrOutside } from '../../db/given';
import { cursorOf, paged, pageOf, type Sort } from '../../db/paging';
import { alert, alertPerson, alertWish, letter, person } from '../../db/schema/index';

const byTime: Sort = { sql: alert.at, type: 'timestamptz' };

/** Alerts of a person of which they may still look at the site. */
const mine = ({ by, sites }: Act): SQL | undefined => and(eq(alert.personId, by.id), atSitesOrOutside(alert.siteId, sites('look')));
const seenOf = ({ tx: { db }, by }: Act) =>
  sql`coalesce((${db.select({ id: alertPerson.seenId }).from(alertPerson).where(eq(alertPerson.personId, by.id))}), 0)`;

export async function alertCount(act: Act): Promise<ResponseOf<typeof contract.alertCount>> {
  return { fresh: await act.tx.db.$count(alert, and(mine(act), gt(alert.id, seenOf(act)))) };
}

async function list(act: Act, { limit, cursor }: QueryOf<typeof contract.listAlerts>, of: SQL | undefined): Promise<ResponseOf<typeof contract.listAlerts>> {
  const page = pageOf(byTime, alert.id, { limit, cursor, direction: 'down' });
  const rows = await act.tx.db
    .select({
      id: alert.id,
      kind: alert.kind,
      at: alert.at,
      text: alert.text,
      leadsTo: alert.leadsTo,
      person: person.name,
      letter: sql<'none' | 'waiting' | 'sent' | 'failed'>`case when ${letter.id} is null then 'none' when ${letter.sentAt} is not null then 'sent'
        when ${letter.nextTryAt} is null then 'failed' else 'waiting' end`,
      isNew: sql<boolean>`${alert.personId} = ${act.by.id} and ${alert.id} > ${seenOf(act)}`,
      ...cursorOf(byTime, alert.id),
    })
    .from(alert)
    .innerJoin(person, eq(person.id, alert.personId))
    .leftJoin(letter, eq(letter.id, alert.letterId))
    .where(and(of, page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, limit);
  return { rows: shown, next };
}

export const listAlerts = (act: Act, query: QueryOf<typeof contract.listAlerts>) => list(act, query, mine(act));
export const listAllAlerts = (act: Act, query: QueryOf<typeof contract.listAllAlerts>) => list(act, query, undefined);

/** Alerts up to one are seen; what was seen stays so. */
export async function seeAlerts({ tx, by }: Act, upTo: number): Promise<Record<string, never>> {
  await tx.db
    .insert(alertPerson)
    .values({ personId: by.id, seenId: upTo })
    .onConflictDoUpdate({ target: alertPerson.personId, set: { seenId: sql`greatest(${alertPerson.seenId}, ${upTo})` } });
  return {};
}

export async function alertWishes({ tx: { db }, by }: Act): Promise<ResponseOf<typeof contract.alertWishes>> {
  const { kind, siteIds, categoryIds, how, byMail } = alertWish;
  const wishes = await db.select({ kind, siteIds, categoryIds, how, byMail }).from(alertWish).where(eq(alertWish.personId, by.id)).orderBy(kind);
  const [own] = await db.select({ at: alertPerson.roundUpAt }).from(alertPerson).where(eq(alertPerson.personId, by.id));
  return { wishes, roundUpAt: own?.at ?? '07:30', email: by.email };
}

/** Keeps what a person wants to be told, in the place of what they wanted before. */
export async function setAlertWishes({ tx: { db }, by }: Act, { wishes, roundUpAt }: BodyOf<typeof contract.setAlertWishes>): Promise<Record<string, never>> {
  await db.delete(alertWish).where(eq(alertWish.personId, by.id));
  if (wishes.length > 0) await db.insert(alertWish).values(wishes.map((wish) => ({ ...wish, personId: by.id })));
  await db.insert(alertPerson).values({ personId: by.id, roundUpAt }).onConflictDoUpdate({ target: alertPerson.personId, set: { roundUpAt } });
  return {};
}
