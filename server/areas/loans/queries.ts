import type * as contract from '@larder/contract/loans';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { isOverdue, loanState, type LoanProgress } from '@larder/core/stock/loans';
import { and, eq, exists, sql, type SQL } from 'drizzle-orm';
import { QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { seenAt, type Act } from '../../act';
import { atSites, positive } from '../../db/given';
import { jsonRows, type RowOf } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf, type Sort } from '../../db/paging';
import {
  item,
  loan,
  loanBack,
  loanLine,
  lot,
  movement,
  movementLine,
  party,
  person,
  place,
  reminder,
  site,
  standingMovement,
  unit,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { changesOf } from '../../documents/changes';
import { movementsOf } from '../../documents/movements';
import { unitOrItem } from '../../documents/lots';

const query = () => new QueryBuilder();
const one = { one: sql`1` };

const total = (column: PgColumn, name: string) => sql<string>`coalesce(trim_scale(sum(${column})), 0)`.as(name);
/** What the lines of a loan come to. */
const sums = query()
  .select({
    lines: sql<number>`count(*)::int`.as('line_count'),
    lent: total(loanLine.lent, 'sum_lent'),
    back: total(loanLine.back, 'sum_back'),
    lost: total(loanLine.lost, 'sum_lost'),
    out: total(loanLine.out, 'sum_out'),
  })
  .from(loanLine)
  .where(eq(loanLine.loanId, loan.id))
  .as('sums');

const items = sql<string>`coalesce((${query()
  .select({ all: sql`string_agg(distinct ${unitOrItem}, ', ')` })
  .from(loanLine)
  .innerJoin(item, eq(item.id, loanLine.itemId))
  .leftJoin(lot, eq(lot.id, loanLine.lotId))
  .where(eq(loanLine.loanId, loan.id))}), '')`;

const rowFields = {
  id: loan.id,
  number: loan.number,
  holderId: party.id,
  holder: party.name,
  siteId: loan.siteId,
  site: site.name,
  lentOn: loan.lentOn,
  dueOn: loan.dueOn,
  items,
  lines: sums.lines,
  lent: sums.lent,
  back: sums.back,
  lost: sums.lost,
  out: sums.out,
  reminds: sql<boolean>`exists (${query().select(one).from(reminder).where(eq(reminder.loanId, loan.id))})`,
};
type Row = RowOf<typeof rowFields>;
const progress = ({ lent, back, lost }: Pick<Row, 'lent' | 'back' | 'lost'>): LoanProgress => ({
  lent: decimal(lent),
  back: decimal(back),
  lost: decimal(lost),
});
const told = (row: Row, today: string): contract.LoanRow => ({
  ...row,
  state: loanState(progress(row)),
  overdue: isOverdue(progress(row), row.dueOn, today),
});

type Asked = QueryOf<typeof contract.listLoans>;
const isOut = positive(sums.out);
const shows = (today: string): Record<Asked['show'], SQL | undefined> => ({
  open: isOut,
  overdue: and(isOut, sql`${loan.dueOn} < ${today}`),
  ended: sql`not ${isOut}`,
  all: undefined,
});
const listed = (act: Act, { q, show, siteId, holderId, itemId }: Asked): SQL | undefined =>
  and(
    shows(act.today)[show],
    atSites(loan.siteId, act.sites('look', siteId)),
    everyWord(sql`lower(concat_ws(' ', ${loan.number}, ${party.name}, ${site.name}, ${loan.note}, ${items}))`, q),
    holderId === undefined ? undefined : eq(loan.holderId, holderId),
    itemId === undefined
      ? undefined
      : exists(
          query()
            .select(one)
            .from(loanLine)
            .where(and(eq(loanLine.loanId, loan.id), eq(loanLine.itemId, itemId))),
        ),
  );

export async function loansInAll(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.loansInAll>> {
  const [row] = await act.tx.db
    .select({ count: sql<number>`count(*)::int` })
    .from(loan)
    .innerJoin(party, eq(party.id, loan.holderId))
    .innerJoin(site, eq(site.id, loan.siteId))
    .innerJoinLateral(sums, sql`true`)
    .where(listed(act, asked));
  return row ?? { count: 0 };
}

/** Loans of the sites that the person may look at: what is out by the day it is due, else the last first. */
export async function loans(act: Act, asked: Asked): Promise<ResponseOf<typeof contract.listLoans>> {
  const isOpen = asked.show === 'open' || asked.show === 'overdue';
  const sort: Sort = isOpen ? { sql: sql`coalesce(${loan.dueOn}, 'infinity')`, type: 'date' } : { sql: loan.createdAt, type: 'timestamptz' };
  const page = pageOf(sort, loan.id, { ...asked, direction: isOpen ? 'up' : 'down' });
  const rows = await act.tx.db
    .select({ ...rowFields, ...cursorOf(sort, loan.id) })
    .from(loan)
    .innerJoin(party, eq(party.id, loan.holderId))
    .innerJoin(site, eq(site.id, loan.siteId))
    .innerJoinLateral(sums, sql`true`)
    .where(and(listed(act, asked), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, asked.limit);
  return { rows: shown.map((row) => told(row, act.today)), next };
}

const lineFields = {
  id: loanLine.id,
  loanId: loan.id,
  number: loan.number,
  itemId: item.id,
  sku: item.sku,
  name: item.name,
  unit: unit.code,
  step: plain(unit.step),
  lotId: loanLine.lotId,
  lot: lot.code,
  fromBinId: loanLine.fromBinId,
  fromBin: place.code,
  siteId: loan.siteId,
  site: site.name,
  lentOn: loan.lentOn,
  dueOn: loan.dueOn,
  lent: plain(loanLine.lent),
  back: plain(loanLine.back),
  lost: plain(loanLine.lost),
  out: plain(loanLine.out),
};

/** Lines of loans. */
export async function loanLines({ tx: { db }, today }: Act, where: SQL | undefined): Promise<contract.LoanLine[]> {
  const rows = await db
    .select(lineFields)
    .from(loanLine)
    .innerJoin(loan, eq(loan.id, loanLine.loanId))
    .innerJoin(site, eq(site.id, loan.siteId))
    .innerJoin(item, eq(item.id, loanLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(place, eq(place.id, loanLine.fromBinId))
    .leftJoin(lot, eq(lot.id, loanLine.lotId))
    .where(where)
    .orderBy(sql`${loan.dueOn} nulls last`, loan.id, loanLine.position);
  return rows.map((row) => ({ ...row, overdue: isOverdue(progress(row), row.dueOn, today) }));
}

/** In what condition things came back by movements that stand. */
const broughtBack = jsonRows(
  {
    lineId: loanBack.lineId,
    at: movement.postedAt,
    condition: loanBack.condition,
    note: loanBack.note,
    quantity: sql<string>`(${query()
      .select({ all: sql`trim_scale(sum(${movementLine.quantity}))::text` })
      .from(movementLine)
      .where(and(eq(movementLine.movementId, loanBack.movementId), eq(movementLine.demandLineId, loanBack.lineId)))})`,
  },
  (select) =>
    select
      .from(loanBack)
      .innerJoin(loanLine, eq(loanLine.id, loanBack.lineId))
      .innerJoin(movement, eq(movement.id, loanBack.movementId))
      .innerJoin(standingMovement, eq(standingMovement.id, loanBack.movementId))
      .where(eq(loanLine.loanId, loan.id)),
  { orderBy: sql`${movement.id}, ${loanBack.lineId}` },
);

/** A loan as it stands, whoever asks. */
export async function loanNow(act: Act, id: number): Promise<contract.Loan> {
  const [row] = await act.tx.db
    .select({
      ...rowFields,
      version: loan.version,
      note: loan.note,
      person: person.name,
      conditions: broughtBack,
      movements: movementsOf('loan', loan.id),
      changes: changesOf('loan', loan.id),
    })
    .from(loan)
    .innerJoin(party, eq(party.id, loan.holderId))
    .innerJoin(site, eq(site.id, loan.siteId))
    .innerJoin(person, eq(person.id, loan.createdBy))
    .innerJoinLateral(sums, sql`true`)
    .where(eq(loan.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such loan.');
  const { movements, changes, ...head } = row;
  return {
    ...head,
    ...told(row, act.today),
    lineRows: await loanLines(act, eq(loanLine.loanId, id)),
    movements: movements.map(({ value: _value, ...each }) => each),
    changes: changes.map(({ cost: _cost, ...each }) => each),
  };
}

export const getLoan = async (act: Act, id: number): Promise<contract.Loan> => seenAt(act, await loanNow(act, id));
