import { addDays, dayOf } from '@larder/core/day';
import { rights } from '@larder/contract/rights';
import type pg from 'pg';
import { sql } from 'drizzle-orm';
import { actOf, type Act, type Person } from '../act';
import { alone } from '../db/alone';
import { drizzleOn, transaction, type Tx } from '../db/database';
import { addPerson, found } from '../db/found';
import { besidesThisMorning, setUpBesides } from './besides';
import { Carriage } from './carriage';
import { setUp } from './catalog';
import { dice } from './dice';
import { Invoicing } from './invoicing';
import { demoPassword, people } from './larkmoor';
import { forgetSerials } from './lots';
import { makingThisMorning, setUpMaking } from './making';
import { Workshop } from './workshop';
import { Paperwork } from './paperwork';
import { Returning } from './returning';
import { thisMorning } from './today';
import { Standing } from './standing';
import { Trade } from './trade';
import { setWays } from './ways';
import { classifyItems } from '../areas/counts/calendar';
import { lookAtAll } from '../areas/planning/look';
import { company, suggestionRun } from '../db/schema/index';

const zone = 'Europe/London';
const historyDays = 548;
const lockNumber = 4311;

/** Fills a database in which no business has been founded yet with the demo, unless it is to stay empty. Returns who may sign in to the demo. */
export async function prepare(pool: pg.Pool, { empty, now = new Date() }: { empty: boolean; now?: Date }, say: (text: string) => void): Promise<string[]> {
  await alone(pool, lockNumber, async () => {
    if (!empty && (await drizzleOn(pool).$count(company)) === 0) await loadDemo(pool, now, say);
  });
  const [business] = await drizzleOn(pool).select({ demo: company.demo }).from(company);
  return business?.demo ? people.map(({ name, email, role }) => `${email}  ${demoPassword}  (${name}, ${role})`) : [];
}

async function loadDemo(pool: pg.Pool, now: Date, say: (text: string) => void): Promise<void> {
  const last = dayOf(now, zone);
  const chance = dice(20260423);
  forgetSerials();
  const began = performance.now();
  const asPerson: Person[] = await transaction(pool, 'write', async (tx) => {
    const [owner, ...others] = people;
    const ids = [await found(tx, { name: 'Larkmoor Bee Supply', demo: true }, { ...(owner as (typeof people)[0]), password: demoPassword })];
    for (const one of others) ids.push(await addPerson(tx, { ...one, password: demoPassword }, one.role));
    return people.map(({ name, email }, index) => ({ id: ids[index] as number, name, email, grants: [{ siteId: null, rights: [...rights] }] }));
  });
  const on = (day: string, work: (act: Act) => Promise<void>): Promise<void> =>
    transaction(pool, 'write', (tx) =>
      work(actOf({ tx, by: chance.pick(asPerson.slice(0, 4)), now: day === last ? now : new Date(`${day}T10:00:00Z`), today: day })),
    );
  const start = addDays(last, -historyDays);
  const first = (tx: Tx): Act => actOf({ tx, by: asPerson[0] as Person, now: new Date(`${start}T08:00:00Z`), today: start });
  const business = await transaction(pool, 'write', (tx) => setUp(first(tx)));
  const besides = await transaction(pool, 'write', (tx) => setUpBesides(first(tx)));
  await transaction(pool, 'write', (tx) => setUpMaking(first(tx)));
  const db = drizzleOn(pool);
  /** The carrier says yes, and what it said yes to goes out and stands ready for the driver. */
  const sendBooked = async (day: string): Promise<void> => {
    const at = new Date(`${day}T10:00:00Z`);
    await carriage.tell(at);
    await transaction(pool, 'write', (tx) => carriage.sendOut(actOf({ tx, by: asPerson[1] as Person, now: at, today: day })));
    await carriage.tell(at);
  };
  const paperwork = new Paperwork(business);
  const carriage = new Carriage(business, pool);
  const invoicing = new Invoicing();
  const returning = new Returning(business.sites[0]?.id as number);
  const workshop = new Workshop(business.sites[0]?.id as number, last);
  await transaction(pool, 'write', (tx) => carriage.setUp(first(tx)));
  await transaction(pool, 'write', (tx) => invoicing.setUp(first(tx)));
  const standing = new Standing(business, business.sites[0]?.id as number, business.customers[0] as number, start);
  await transaction(pool, 'write', (tx) => standing.setUp(first(tx)));
  const trade = new Trade(business, chance, last, carriage, standing);
  for (let day = addDays(start, 1), n = 0; day < last; day = addDays(day, 1), n += 1) {
    if (n % 50 === 5) await db.execute(sql`vacuum analyze pool, item_site, balance, reservation, counter, document_line`);
    if (n % 100 === 10) await db.execute(sql`analyze`);
    await on(day, async (act) => {
      await trade.day(act);
      await paperwork.day(act);
      await invoicing.day(act);
      await returning.day(act);
      await workshop.day(act);
    });
    if (carriage.hasBooked()) await sendBooked(day);
  }
  await on(last, async (act) => {
    await thisMorning(act, business);
    await besidesThisMorning(act, besides, business.sites[0]?.id as number);
    await makingThisMorning(act, business);
    await workshop.thisMorning(act);
    await paperwork.thisMorning(act);
    await carriage.thisMorning(act);
    await returning.thisMorning(act);
    await setWays(act);
  });
  await carriage.tell(now);
  await carriage.follow(now);
  await db.execute(sql`analyze`);
  await classifyItems(pool, now);
  const [look] = await db.insert(suggestionRun).values({ askedAt: now.toISOString() }).returning({ id: suggestionRun.id });
  await lookAtAll(pool, { runId: look?.id ?? 0, now });
  say(`the demo was loaded in ${Math.round((performance.now() - began) / 1000)} s`);
}
