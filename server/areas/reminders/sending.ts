import { dayInWords, dayOf } from '@larder/core/day';
import { daysInWords, dueInWords, isToRemind, latestDays } from '@larder/core/reminders';
import { grantedAt, grantedSomewhere } from '@larder/contract/rights';
import { and, eq, or, sql } from 'drizzle-orm';
import type pg from 'pg';
import { drizzleOn, transaction, type Db } from '../../db/database';
import { among } from '../../db/given';
import { attribute, company, person, reminded, reminderTo, roleGrant } from '../../db/schema/index';
import { tellPerson } from '../../documents/notice';
import { personFields } from '../../http/session';
import { keyOf, leadsTo, remindings, type Reminding } from './subjects';

/** People who are to be told, and may look at what it is about. */
async function recipients(db: Db, one: Reminding) {
  const chosen =
    one.reminderId === null
      ? await db
          .select({ people: attribute.reminderPeople, roles: attribute.reminderRoles })
          .from(attribute)
          .where(eq(attribute.id, one.attributeId as number))
          .then(([row]) => ({ people: row?.people ?? [], roles: row?.roles ?? [] }))
      : await db
          .select({ personId: reminderTo.personId, roleId: reminderTo.roleId })
          .from(reminderTo)
          .where(eq(reminderTo.reminderId, one.reminderId))
          .then((rows) => ({ people: rows.flatMap(({ personId }) => personId ?? []), roles: rows.flatMap(({ roleId }) => roleId ?? []) }));
  const byRole = db.select({ id: roleGrant.personId }).from(roleGrant).where(among(roleGrant.roleId, chosen.roles));
  const people = await db
    .select(personFields)
    .from(person)
    .where(and(person.active, or(among(person.id, chosen.people), sql`${person.id} in (${byRole})`)))
    .orderBy(person.id);
  return people.filter(({ grants }) => (one.siteId === null ? grantedSomewhere(grants, 'look') : grantedAt(grants, 'look', one.siteId)));
}

/** Sends the reminders whose day has come, each once to each person. Answers how many letters were written. */
export async function sendReminders(pool: pg.Pool, now: Date, address: string): Promise<number> {
  const db = drizzleOn(pool);
  const [business] = await db.select({ zone: company.timeZone, name: company.name }).from(company);
  if (!business) return 0;
  const today = dayOf(now, business.zone);
  const all = (await remindings(db, today, latestDays)).filter(({ day, days, since }) => isToRemind(day, days, { today, since }));
  let written = 0;
  for (const one of all)
    for (const { id, name, email } of await recipients(db, one)) {
      const what = keyOf(one, one.days);
      written += await transaction(pool, 'write', async (tx) => {
        const [first] = await tx.db
          .insert(reminded)
          .values({ what, day: one.day, personId: id })
          .onConflictDoNothing()
          .returning({ personId: reminded.personId });
        if (!first) return 0;
        const letterId = await tellPerson({ tx, now }, { id, name, email, business: business.name }, wordsOf(one, today, address));
        await tx.db
          .update(reminded)
          .set({ letterId })
          .where(and(eq(reminded.what, what), eq(reminded.day, one.day), eq(reminded.personId, id)));
        return 1;
      });
    }
  return written;
}

/** What a letter says: what it is and how its day lies in the subject; why it came, and where to act, in the text. */
function wordsOf(one: Reminding, today: string, address: string): { subject: string; text: string; leadsTo: string } {
  const said = dueInWords(one.about === 'loan' ? 'due' : one.about === 'use-by' ? 'use-by' : 'day', one.day, today, dayInWords(one.day));
  const day = one.about === 'attribute' ? `${one.called} ${said}` : said;
  const path = leadsTo(one);
  return {
    subject: `${one.what} ${day}`,
    text: [
      `${one.what} ${day}.`,
      '',
      `Open it: ${address}${path}`,
      '',
      `You are reminded ${daysInWords(one.days)}. ${one.reminderId === null ? 'Setup says so for all that have this day.' : 'Who is reminded is said there, too.'}`,
    ].join('\n'),
    leadsTo: path,
  };
}
