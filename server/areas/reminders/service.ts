import type * as contract from '@larder/contract/reminders';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { remindOn, type RemindedOf } from '@larder/core/reminders';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows } from '../../db/given';
import { jsonRows } from '../../db/json';
import { attribute, attributeValue, item, loan, lot, person, reminded, reminder, reminderTo, role } from '../../db/schema/index';
import { cause } from '../../jobs/outbox';
import { attributeDays, keyOf, loanDays, useByDays, type Subject } from './subjects';

export { attributeDays, loanDays } from './subjects';

interface About {
  loanId: number | null;
  itemId: number | null;
  lotId: number | null;
}

/** Refuses what is not there, or not one thing; answers of what sort it is. */
async function refuseAbout(act: Act, { loanId, itemId, lotId }: About): Promise<'loan' | 'item' | 'unit'> {
  const { db } = act.tx;
  if ([loanId, itemId, lotId].filter((id) => id !== null).length !== 1) throw new Refusal(422, 'one-thing', 'Say which loan, item or unit it is about.');
  act.allowOwn('look');
  if (loanId !== null) {
    const [found] = await db.select({ siteId: loan.siteId }).from(loan).where(eq(loan.id, loanId));
    if (!found) throw new Refusal(404, 'not-found', 'There is no such loan.');
    act.allow('look', found.siteId);
    return 'loan';
  }
  const known = itemId !== null ? await db.$count(item, eq(item.id, itemId)) : await db.$count(lot, eq(lot.id, lotId as number));
  if (known === 0) throw new Refusal(404, 'not-found', itemId !== null ? 'There is no such item.' : 'There is no such lot or unit.');
  return itemId !== null ? 'item' : 'unit';
}

/** The days that a loan, item or unit has now. */
async function subjectsOf({ tx: { db } }: Act, { loanId, itemId, lotId }: About): Promise<Subject[]> {
  if (loanId !== null) return loanDays(db, eq(loan.id, loanId));
  const lots = await useByDays(db, lotId !== null ? eq(lot.id, lotId) : eq(lot.itemId, itemId as number));
  return [...lots, ...(await attributeDays(db, lotId !== null ? eq(attributeValue.lotId, lotId) : eq(attributeValue.itemId, itemId as number)))];
}

/** Reminders of one thing, with what they are about next, and what else can be reminded of. */
export async function remindersOf(act: Act, asked: QueryOf<typeof contract.remindersOf>): Promise<ResponseOf<typeof contract.remindersOf>> {
  const { db } = act.tx;
  const about: About = { loanId: asked.loanId ?? null, itemId: asked.itemId ?? null, lotId: asked.lotId ?? null };
  const sort = await refuseAbout(act, about);
  const subjects = await subjectsOf(act, about);
  const own = await db
    .select({ id: attribute.id, name: attribute.name })
    .from(attribute)
    .where(and(eq(attribute.kind, 'date'), isNull(attribute.retiredAt), eq(attribute.subject, sort === 'item' ? 'item' : 'unit')))
    .orderBy(attribute.position);
  const next = (of: RemindedOf, attributeId: number | null): Subject | undefined =>
    subjects.filter((one) => one.about === of && one.attributeId === attributeId).sort((one, other) => one.day.localeCompare(other.day))[0];
  const day = (of: RemindedOf, attributeId: number | null, called: string) => ({ about: of, attributeId, called, day: next(of, attributeId)?.day ?? null });
  const days =
    sort === 'loan'
      ? [day('loan', null, 'due back')]
      : [day('use-by', null, sort === 'item' ? 'use-by day of a lot' : 'use-by day'), ...own.map(({ id, name }) => day('attribute', id, name))];
  const rows = await db
    .select({
      id: reminder.id,
      about: reminder.about,
      attributeId: reminder.attributeId,
      attribute: attribute.name,
      days: reminder.days,
      people: jsonRows(
        { id: person.id, name: person.name },
        (select) => select.from(reminderTo).innerJoin(person, eq(person.id, reminderTo.personId)).where(eq(reminderTo.reminderId, reminder.id)),
        { orderBy: asc(person.name) },
      ),
      roles: jsonRows(
        { id: role.id, name: role.name },
        (select) => select.from(reminderTo).innerJoin(role, eq(role.id, reminderTo.roleId)).where(eq(reminderTo.reminderId, reminder.id)),
        { orderBy: asc(role.name) },
      ),
    })
    .from(reminder)
    .leftJoin(attribute, eq(attribute.id, reminder.attributeId))
    .where(
      about.loanId !== null
        ? eq(reminder.loanId, about.loanId)
        : about.itemId !== null
          ? eq(reminder.itemId, about.itemId)
          : eq(reminder.lotId, about.lotId as number),
    )
    .orderBy(reminder.days, reminder.id);
  const sent = await db
    .select({ what: reminded.what, day: reminded.day, person: person.name })
    .from(reminded)
    .innerJoin(person, eq(person.id, reminded.personId))
    .where(
      among(
        reminded.what,
        rows.flatMap((row) => subjects.map((subject) => keyOf(subject, row.days))),
      ),
    )
    .orderBy(reminded.day, person.name);
  const people = await db.select({ id: person.id, name: person.name, email: person.email }).from(person).where(eq(person.active, true)).orderBy(person.name);
  const roles = await db.select({ id: role.id, name: role.name }).from(role).orderBy(role.name);
  return {
    rows: rows.map(({ attribute: name, ...row }) => {
      const subject = next(row.about, row.attributeId);
      const mine = subjects.filter((one) => one.about === row.about && one.attributeId === row.attributeId).map((one) => keyOf(one, row.days));
      return {
        ...row,
        called: name ?? days.find((one) => one.about === row.about)?.called ?? '',
        day: subject?.day ?? null,
        on: subject ? remindOn(subject.day, row.days) : null,
        sent: sent.filter(({ what }) => mine.includes(what)).map(({ day: of, person: to }) => ({ day: of, person: to })),
      };
    }),
    days,
    people,
    roles,
  };
}

/** Has people reminded of a day, by themselves or by their roles. */
export async function setReminder(act: Act, form: BodyOf<typeof contract.setReminder>): Promise<{ id: number }> {
  const { db } = act.tx;
  const sort = await refuseAbout(act, form);
  if ((form.about === 'loan') !== (sort === 'loan')) throw refuseField(422, 'other-day', 'about', 'This has no such day.');
  if (form.about === 'attribute') {
    const fits = and(eq(attribute.id, form.attributeId ?? 0), eq(attribute.kind, 'date'), eq(attribute.subject, sort === 'item' ? 'item' : 'unit'));
    if ((await db.$count(attribute, and(fits, isNull(attribute.retiredAt)))) === 0) throw refuseField(422, 'other-day', 'attributeId', 'This has no such day.');
  } else if (form.attributeId !== null) throw refuseField(422, 'other-day', 'attributeId', 'Only a day of your own has a name of its own.');
  const people = await db
    .select({ id: person.id, name: person.name, email: person.email })
    .from(person)
    .where(and(among(person.id, form.personIds), person.active));
  if (people.length < new Set(form.personIds).size) throw refuseField(404, 'no-such-person', 'personIds', 'Choose people from the list.');
  if ((await db.$count(role, among(role.id, form.roleIds))) < new Set(form.roleIds).size)
    throw refuseField(404, 'no-such-role', 'roleIds', 'Choose roles from the list.');
  const { loanId, itemId, lotId, about, attributeId, days } = form;
  const [made] = await db
    .insert(reminder)
    .values({ loanId, itemId, lotId, about, attributeId, days, createdAt: act.now.toISOString(), createdBy: act.by.id })
    .returning({ id: reminder.id });
  const id = made?.id as number;
  await insertRows(act.tx, reminderTo, [
    ...[...new Set(form.personIds)].map((personId) => ({ reminderId: id, personId, roleId: null })),
    ...[...new Set(form.roleIds)].map((roleId) => ({ reminderId: id, personId: null, roleId })),
  ]);
  // One whose day is today goes out now.
  await cause(act, 'remind', {}, 'now');
  return { id };
}

/** Ends a reminder; what it sent already stays sent. */
export async function dropReminder(act: Act, id: number): Promise<Record<string, never>> {
  const [found] = await act.tx.db.select().from(reminder).where(eq(reminder.id, id));
  if (!found) throw new Refusal(404, 'not-found', 'There is no such reminder.');
  await refuseAbout(act, found);
  await act.tx.db.delete(reminder).where(eq(reminder.id, id));
  return {};
}
