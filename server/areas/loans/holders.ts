import type * as contract from '@larder/contract/loans';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, isNull, ne, or, sql, type SQL } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites, positive } from '../../db/given';
import { cursorOf, everyWord, paged, pageOf } from '../../db/paging';
import { item, loan, loanLine, lot, party, place } from '../../db/schema/index';
import { lower, sameText } from '../../db/text';
import { recordChanges, refuseStale } from '../../documents/changes';
import { unitOrItem } from '../../documents/lots';
import { placesOfHolders } from '../../documents/holders';
import { loanLines } from './queries';

const fields = {
  id: party.id,
  name: party.name,
  sort: party.holderSort,
  isCustomer: party.isCustomer,
  email: party.email,
  phone: party.phone,
  version: party.version,
};

type Asked = QueryOf<typeof contract.listHolders>;
/** What of a holder's loans is out, at sites that the person may look at. */
const holdingOf = (act: Act) =>
  new QueryBuilder()
    .select({
      lines: sql<number>`count(*)::int`.as('held_lines'),
      items: sql<string>`coalesce(string_agg(distinct ${unitOrItem}, ', '), '')`.as('held_items'),
      overdue: sql<number>`(count(*) filter (where ${loan.dueOn} < ${act.today}))::int`.as('held_late'),
      nextDue: sql<string | null>`min(${loan.dueOn})::text`.as('held_next'),
    })
    .from(loan)
    .innerJoin(loanLine, and(eq(loanLine.loanId, loan.id), positive(loanLine.out)))
    .innerJoin(item, eq(item.id, loanLine.itemId))
    .leftJoin(lot, eq(lot.id, loanLine.lotId))
    .where(and(eq(loan.holderId, party.id), atSites(loan.siteId, act.sites('look'))))
    .as('holding');

const listed = (holding: ReturnType<typeof holdingOf>, { q, show }: Asked): SQL | undefined =>
  and(
    eq(party.isHolder, true),
    isNull(party.retiredAt),
    everyWord(sql`lower(concat_ws(' ', ${party.name}, ${holding.items}))`, q),
    show === 'holding' ? positive(holding.lines) : undefined,
  );

export async function holders(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.listHolders>> {
  const holding = holdingOf(act);
  const sort = { sql: lower(party.name), type: 'text' as const };
  const page = pageOf(sort, party.id, { ...asked, direction: 'up' });
  const rows = await act.tx.db
    .select({ ...fields, lines: holding.lines, items: holding.items, overdue: holding.overdue, nextDue: holding.nextDue, ...cursorOf(sort, party.id) })
    .from(party)
    .innerJoinLateral(holding, sql`true`)
    .where(and(listed(holding, asked), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, asked.limit);
}

export async function holdersInAll(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.holdersInAll>> {
  const holding = holdingOf(act);
  const [row] = await act.tx.db
    .select({ count: sql<number>`count(*)::int` })
    .from(party)
    .innerJoinLateral(holding, sql`true`)
    .where(listed(holding, asked));
  return row ?? { count: 0 };
}

async function holderOf({ tx: { db } }: Act, id: number) {
  const [row] = await db
    .select(fields)
    .from(party)
    .where(and(eq(party.id, id), or(party.isHolder, party.isCustomer)));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such holder.');
  return row;
}

/** A holder, and all that they have from sites that the person may look at. */
export async function getHolder(act: Act, id: number): Promise<contract.HolderPage> {
  const row = await holderOf(act, id);
  return { ...row, lines: await loanLines(act, and(eq(loan.holderId, id), positive(loanLine.out), atSites(loan.siteId, act.sites('look')))) };
}

type Form = BodyOf<typeof contract.createHolder>;
async function refuseName({ tx: { db } }: Act, name: string, id: number): Promise<void> {
  const [taken] = await db
    .select({ name: party.name })
    .from(party)
    .where(and(sameText(party.name, name), ne(party.id, id)));
  if (taken) throw refuseField(409, 'name-in-use', 'name', `${taken.name} is there already, as a holder, customer or supplier.`);
}

export async function createHolder(act: Act, form: Form): Promise<ResponseOf<typeof contract.createHolder>> {
  act.sites('stock.lend');
  await refuseName(act, form.name, 0);
  const { name, sort: holderSort, email, phone } = form;
  const [added] = await act.tx.db.insert(party).values({ name, holderSort, email, phone, isHolder: true }).returning({ id: party.id });
  await placesOfHolders(act.tx, { partyId: added?.id as number });
  return holderOf(act, added?.id as number);
}

export async function editHolder(
  act: Act,
  id: number,
  { version, ...form }: BodyOf<typeof contract.editHolder>,
): Promise<ResponseOf<typeof contract.editHolder>> {
  act.sites('stock.lend');
  const was = await holderOf(act, id);
  refuseStale(version, was.version, was.name);
  await refuseName(act, form.name, id);
  const { name, sort: holderSort, email, phone } = form;
  await act.tx.db
    .update(party)
    .set({ name, holderSort, email, phone, version: version + 1 })
    .where(eq(party.id, id));
  await act.tx.db.update(place).set({ code: name }).where(eq(place.partyId, id));
  const is = await holderOf(act, id);
  const said = ({ version: _version, ...rest }: typeof is) => rest;
  await recordChanges(act, 'party', id, said(was), said(is));
  return is;
}

/** Lets a customer hold what is lent; one that does already stays as it is. */
export async function becomeHolder(act: Act, id: number): Promise<ResponseOf<typeof contract.becomeHolder>> {
  act.sites('stock.lend');
  await holderOf(act, id);
  await act.tx.db.update(party).set({ isHolder: true }).where(eq(party.id, id));
  await placesOfHolders(act.tx, { partyId: id });
  return holderOf(act, id);
}
