import { randomBytes } from 'node:crypto';
import { addDays, dayOf } from '@larder/core/day';
import { Refusal } from '@larder/core/refusal';
import { sitesGranted, type Sites } from '@larder/contract/rights';
import ical from 'ical-generator';
import { and, eq, gte, isNotNull, sql } from 'drizzle-orm';
import type pg from 'pg';
import type { Act } from '../../act';
import { drizzleOn, type Db } from '../../db/database';
import { atSites, positive } from '../../db/given';
import { company, loan, lot, party, person, purchaseLine, purchaseOrder, salesLine, salesOrder, site, transfer, transferLine } from '../../db/schema/index';
import { isStanding } from '../../documents/orderFields';
import { personFields } from '../../http/session';
import { loanDays, useByDays, leadsTo } from './subjects';

const pathOf = (secret: string): string => `/api/calendar/${secret}.ics`;

/** The address of a person's calendar, if they have one. */
export async function myCalendar({ tx: { db }, by }: Act): Promise<{ path: string | null }> {
  const [row] = await db.select({ secret: person.calendarSecret }).from(person).where(eq(person.id, by.id));
  return { path: row?.secret ? pathOf(row.secret) : null };
}

/** Gives a person's calendar a new address, which nobody can guess; an older one leads nowhere any more. */
export async function newCalendar(act: Act): Promise<{ path: string }> {
  act.allowOwn('look');
  const calendarSecret = randomBytes(24).toString('base64url');
  await act.tx.db.update(person).set({ calendarSecret }).where(eq(person.id, act.by.id));
  return { path: pathOf(calendarSecret) };
}

export async function endCalendar(act: Act): Promise<Record<string, never>> {
  act.allowOwn('look');
  await act.tx.db.update(person).set({ calendarSecret: null }).where(eq(person.id, act.by.id));
  return {};
}

interface Due {
  day: string;
  what: string;
  path: string;
}
/** What lies further back, or ahead, is left out, in days. */
const reach = 400;

/** The due days of what a person may look at: loans, deliveries, orders to ship, transfers, and use-by days of lots. */
async function dueDays(db: Db, sites: Sites, today: string): Promise<Due[]> {
  const from = addDays(today, -reach);
  const loans = await loanDays(db, and(gte(loan.dueOn, from), atSites(loan.siteId, sites)));
  const lots = await useByDays(db, and(gte(lot.useBy, from), sql`${lot.useBy} < ${addDays(today, reach)}`));
  const deliveries = await db
    .selectDistinct({
      day: sql<string>`coalesce(${purchaseLine.expectedOn}, ${purchaseOrder.expectedOn})`,
      what: sql<string>`${purchaseOrder.number} || ' from ' || ${party.name} || ' is expected'`,
      path: sql<string>`'/inbound/orders/' || ${purchaseOrder.id}`,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .where(
      and(
        positive(purchaseLine.incoming),
        isNotNull(sql`coalesce(${purchaseLine.expectedOn}, ${purchaseOrder.expectedOn})`),
        atSites(purchaseOrder.siteId, sites),
      ),
    );
  const dispatches = await db
    .selectDistinct({
      day: sql<string>`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy})`,
      what: sql<string>`${salesOrder.number} || ' for ' || ${party.name} || ' is to ship'`,
      path: sql<string>`'/outbound/orders/' || ${salesOrder.id}`,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .where(and(isStanding(salesOrder, salesOrder.confirmedAt), positive(salesLine.wanted), atSites(salesLine.siteId, sites)));
  const arrivals = await db
    .selectDistinct({
      day: sql<string>`${transfer.expectedOn}`,
      what: sql<string>`${transfer.number} || ' arrives at ' || ${site.name}`,
      path: sql<string>`'/stock/transfers/' || ${transfer.id}`,
    })
    .from(transferLine)
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .innerJoin(site, eq(site.id, transfer.toSiteId))
    .where(and(positive(transferLine.inTransit), isNotNull(transfer.expectedOn), atSites(transfer.toSiteId, sites)));
  return [
    ...loans.map((one) => ({ day: one.day, what: `${one.what} is due back`, path: leadsTo(one) })),
    ...lots.map((one) => ({ day: one.day, what: `${one.what}: use by`, path: leadsTo(one) })),
    ...deliveries,
    ...dispatches,
    ...arrivals,
  ].sort((one, other) => one.day.localeCompare(other.day) || one.path.localeCompare(other.path));
}

/** A person's due days as iCalendar (RFC 5545), by the secret their address ends in; each a day long. */
export async function calendarOf(pool: pg.Pool, secret: string, now: Date, address: string): Promise<string> {
  const db = drizzleOn(pool);
  const [who] = await db
    .select(personFields)
    .from(person)
    .where(and(eq(person.calendarSecret, secret), person.active));
  const [business] = await db.select({ name: company.name, zone: company.timeZone }).from(company);
  if (!who || !business) throw new Refusal(404, 'not-found', 'There is no calendar at this address.');
  const calendar = ical({ name: `${business.name}: due`, prodId: { company: 'Tidy Larder', product: 'Due days', language: 'EN' }, ttl: 3600 });
  for (const { day, what, path } of await dueDays(db, sitesGranted(who.grants, 'look'), dayOf(now, business.zone)))
    calendar.createEvent({
      // The same day of the same thing is the same event, whenever it is read.
      id: `${path.replaceAll('/', '-').slice(1)}-${day}@tidy-larder.invalid`,
      stamp: now,
      start: new Date(`${day}T00:00:00Z`),
      allDay: true,
      summary: what,
      url: `${address}${path}`,
    });
  return calendar.toString();
}
