import type * as contract from '@larder/contract/colleagues';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { grantedAt, type Right } from '@larder/contract/rights';
import { refuseField } from '@larder/core/refusal';
import { and, asc, eq, ne, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { oneAfterTheOther } from '../../db/functions';
import { jsonRows } from '../../db/json';
import { person, role, roleGrant, session, site } from '../../db/schema/index';
import { recordChanges } from '../../documents/changes';
import { personFields } from '../../http/session';
import { newPassword } from './password';

type Roles = BodyOf<typeof contract.addPerson>['roles'];
type Done = Record<string, never>;

/** Everybody who works here, those who have left last, and the roles there are. */
export async function listPeople({ tx: { db }, now }: Act): Promise<ResponseOf<typeof contract.listPeople>> {
  const people = await db
    .select({
      id: person.id,
      name: person.name,
      email: person.email,
      retired: sql<boolean>`not ${person.active}`,
      roles: jsonRows({ roleId: roleGrant.roleId, siteId: roleGrant.siteId }, (select) => select.from(roleGrant).where(eq(roleGrant.personId, person.id)), {
        orderBy: asc(roleGrant.id),
      }),
      lastSeenAt: sql<string | null>`(${db
        .select({ at: sql`max(${session.lastSeenAt})` })
        .from(session)
        .where(and(eq(session.personId, person.id), sql`${session.expiresAt} > ${now.toISOString()}`))})`,
    })
    .from(person)
    .orderBy(sql`not ${person.active}`, sql`lower(${person.name})`, asc(person.id));
  const roles = await db
    .select({ id: role.id, name: role.name, rights: sql<Right[]>`${role.rights}` })
    .from(role)
    .orderBy(asc(role.id));
  return { people, roles };
}

/** Refuses a mail address that somebody else signs in with. */
async function refuseTaken({ tx: { db } }: Act, email: string, id: number | null): Promise<void> {
  const [taken] = await db
    .select({ name: person.name, active: person.active })
    .from(person)
    .where(and(eq(person.email, email), id === null ? undefined : ne(person.id, id)));
  if (taken) throw refuseField(409, 'address-in-use', 'email', `${taken.name}${taken.active ? '' : ', who has left,'} has this mail address.`);
}

/** Gives exactly these roles and no others. Refuses, by its row, one that is not there, is given twice, or is for a site that is retired. */
async function giveRoles({ tx: { db } }: Act, personId: number, roles: Roles): Promise<void> {
  const known = (await db.select({ id: role.id }).from(role)).map(({ id }) => id);
  const sites = await db.select({ id: site.id, name: site.name, retiredAt: site.retiredAt }).from(site);
  const had = await db.select({ roleId: roleGrant.roleId, siteId: roleGrant.siteId }).from(roleGrant).where(eq(roleGrant.personId, personId));
  const same = (a: Roles[number], b: Roles[number]) => a.roleId === b.roleId && a.siteId === b.siteId;
  roles.forEach((given, index) => {
    if (!known.includes(given.roleId)) throw refuseField(422, 'no-such-role', `roles.${index}.roleId`, 'Choose a role.');
    if (roles.findIndex((each) => same(each, given)) < index) throw refuseField(422, 'twice', `roles.${index}.roleId`, 'This role is given twice.');
    if (given.siteId === null) return;
    const at = sites.find(({ id }) => id === given.siteId);
    if (!at) throw refuseField(422, 'no-such-site', `roles.${index}.siteId`, 'Choose a site.');
    if (at.retiredAt !== null && !had.some((each) => same(each, given)))
      throw refuseField(422, 'site-retired', `roles.${index}.siteId`, `${at.name} is retired; choose another site.`);
  });
  await db.delete(roleGrant).where(eq(roleGrant.personId, personId));
  await db.insert(roleGrant).values(roles.map((given) => ({ personId, ...given })));
}

/** What somebody's roles are in words, as the history keeps them. */
async function rolesInWords({ tx: { db } }: Act, personId: number): Promise<string> {
  const rows = await db
    .select({ role: role.name, site: site.name })
    .from(roleGrant)
    .innerJoin(role, eq(role.id, roleGrant.roleId))
    .leftJoin(site, eq(site.id, roleGrant.siteId))
    .where(eq(roleGrant.personId, personId))
    .orderBy(asc(role.name), asc(site.name));
  return rows.map(({ role: name, site: at }) => (at === null ? name : `${name} at ${at}`)).join('; ');
}

/** Refuses what would leave nobody who may set up the business, and so nobody who could let anyone in again. */
async function refuseShuttingOut({ tx: { db } }: Act, field: string): Promise<void> {
  const left = await db.select(personFields).from(person).where(eq(person.active, true));
  if (!left.some(({ grants }) => grantedAt(grants, 'setup.edit', null)))
    throw refuseField(
      409,
      'nobody-left',
      field,
      'Then nobody could set up the business any more. Give somebody else a role with that right at all sites first.',
    );
}

/** A person as they are, held until they are changed. Refuses one who is not there. */
async function held({ tx: { db } }: Act, id: number) {
  const [was] = await db.select({ name: person.name, email: person.email, active: person.active }).from(person).where(eq(person.id, id)).for('update');
  if (!was) throw refuseField(404, 'not-found', 'id', 'There is no such person.');
  return was;
}
const endSessions = ({ tx: { db } }: Act, id: number): Promise<unknown> => db.delete(session).where(eq(session.personId, id));

export async function addPerson(act: Act, form: BodyOf<typeof contract.addPerson>): Promise<{ id: number }> {
  const { name, email, roles, password } = form;
  const passwordHash = await newPassword(password, [name, email]);
  await oneAfterTheOther(act.tx, 'people');
  await refuseTaken(act, email, null);
  const [added] = await act.tx.db.insert(person).values({ name, email, passwordHash }).returning({ id: person.id });
  const id = added?.id as number;
  await giveRoles(act, id, roles);
  await recordChanges(act, 'person', id, {}, { name, email, roles: await rolesInWords(act, id) });
  return { id };
}

/** Changes somebody. What they may do is as their roles say from their next request on; one's own password is changed by oneself. */
export async function editPerson(act: Act, id: number, form: BodyOf<typeof contract.editPerson>): Promise<Done> {
  const { name, email, roles, password } = form;
  if (password !== null && id === act.by.id) throw refuseField(422, 'own-password', 'password', 'Change your own password under your name, at the top.');
  const passwordHash = password === null ? null : await newPassword(password, [name, email]);
  await oneAfterTheOther(act.tx, 'people');
  const was = await held(act, id);
  await refuseTaken(act, email, id);
  const before = { name: was.name, email: was.email, roles: await rolesInWords(act, id) };
  await act.tx.db
    .update(person)
    .set({ name, email, ...(passwordHash === null ? {} : { passwordHash }) })
    .where(eq(person.id, id));
  await giveRoles(act, id, roles);
  await refuseShuttingOut(act, 'roles');
  if (passwordHash !== null) await endSessions(act, id);
  await recordChanges(act, 'person', id, before, { name, email, roles: await rolesInWords(act, id), ...(passwordHash === null ? {} : { password: 'new' }) });
  return {};
}

/** Shuts somebody out or lets them in again; what they did keeps their name. */
export async function retirePerson(act: Act, id: number, retired: boolean): Promise<Done> {
  if (id === act.by.id) throw refuseField(422, 'oneself', 'id', 'Nobody shuts themselves out; somebody else who may set up the business does.');
  await oneAfterTheOther(act.tx, 'people');
  const was = await held(act, id);
  await act.tx.db.update(person).set({ active: !retired }).where(eq(person.id, id));
  await refuseShuttingOut(act, 'id');
  if (retired) await endSessions(act, id);
  await recordChanges(act, 'person', id, { retired: !was.active }, { retired });
  return {};
}
