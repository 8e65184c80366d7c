import type * as contract from '@larder/contract/customers';
import type { ResponseOf } from '@larder/contract/endpoint';
import { grantedAt } from '@larder/contract/rights';
import { beyondLimit, type Standing } from '@larder/core/outbound/credit';
import { addDays } from '@larder/core/day';
import { decimal, moneyText } from '@larder/core/decimal';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, desc, eq, gt, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { item, party, salesLine, salesOrder, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { isStanding, lineUnit, taxRateOn } from '../../documents/orderFields';
import { saleAt } from '../../documents/seen';
import { companyCurrency } from '../../ledger/company';
import { owedBy } from '../invoices/queries';

const refuseNoCustomer = async ({ tx: { db } }: Act, id: number): Promise<void> => {
  if ((await db.$count(party, and(eq(party.id, id), party.isCustomer))) === 0) throw new Refusal(404, 'not-found', 'There is no such customer.');
};

const standing = isStanding(salesOrder, salesOrder.confirmedAt);
/** Of a line, what is to be invoiced some day: of an order that stands all that is ordered, of one that is ended what went out; less what came back and what is invoiced. */
const uninvoiced = sql`greatest(case when ${standing} then ${salesLine.baseQuantity} else ${salesLine.dispatched} end - ${salesLine.returned} - ${salesLine.invoiced}, 0)`;

/** What confirmed orders of a customer come to that is on no invoice yet, with tax by today's rates, in company currency. */
async function orderedBy({ tx: { db }, today }: Act, customerId: number): Promise<string> {
  const [row] = await db
    .select({
      all: sql<string>`coalesce(round(sum(
        ${salesLine.amount} * ${salesOrder.rate} * ${uninvoiced} / ${salesLine.baseQuantity} * (1 + ${taxRateOn(salesLine.taxCodeId, today)}::numeric / 100)), 2), 0.00)::text`,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(and(eq(salesOrder.customerId, customerId), gt(salesLine.baseQuantity, '0'), sql`${salesOrder.confirmedAt} is not null`));
  return row?.all ?? '0.00';
}

/** How a customer stands: what is owed and ordered is the company's, and shown to whom may look at all of it. */
export async function customerStanding(act: Act, id: number): Promise<ResponseOf<typeof contract.customerStanding>> {
  await refuseNoCustomer(act, id);
  const { db } = act.tx;
  const mine = and(eq(salesOrder.customerId, id), saleAt(act.sites('look')), sql`${salesOrder.confirmedAt} is not null`);
  const counts = {
    openOrders: await db.$count(
      salesOrder,
      and(
        mine,
        standing,
        sql`exists (${db
          .select({ one: sql`1` })
          .from(salesLine)
          .where(and(eq(salesLine.orderId, salesOrder.id), sql`${salesLine.dispatched} < ${salesLine.baseQuantity}`))})`,
      ),
    ),
    yearsOrders: await db.$count(salesOrder, and(mine, isNull(salesOrder.cancelledAt), sql`${salesOrder.confirmedAt}::date > ${addDays(act.today, -365)}`)),
  };
  if (!grantedAt(act.by.grants, 'look', null)) return { owed: null, overdue: null, ordered: null, limit: null, ...counts };
  const [head] = await db.select({ limit: party.creditLimit }).from(party).where(eq(party.id, id));
  return { ...(await owedBy(act, id)), ordered: await orderedBy(act, id), limit: head?.limit ?? null, ...counts };
}

/**
 * Asks before a customer owes more than they may by an order: nobody else confirms or changes orders of one with a limit meanwhile. Called after the order is written, so that it counts.
 * Who may not go beyond a limit is refused.
 */
export async function refuseOverLimit(act: Act, { id, siteId }: { id: number; siteId: number }, said: boolean): Promise<void> {
  const { db, readOnly } = act.tx;
  if (readOnly) return;
  const [customer] = await db
    .select({ id: party.id, name: party.name, limit: party.creditLimit })
    .from(party)
    .innerJoin(salesOrder, and(eq(salesOrder.customerId, party.id), eq(salesOrder.id, id)))
    .for('no key update', { of: party });
  if (!customer || customer.limit === null) return;
  const { owed } = await owedBy(act, customer.id);
  const all: Standing = { owed: decimal(owed), ordered: decimal(await orderedBy(act, customer.id)), limit: decimal(customer.limit) };
  const beyond = beyondLimit(all);
  if (beyond === null) return;
  const owes = `${customer.name} would owe ${moneyText(all.owed.plus(all.ordered))} ${await companyCurrency(act)}, ${moneyText(beyond)} more than they may.`;
  const may = grantedAt(act.by.grants, 'outbound.over-limit', siteId);
  if (!may) throw new Refusal(403, 'over-limit', `${owes} Somebody who may go beyond a credit limit has to confirm it.`);
  if (!said) throw refuseField(409, 'over-limit', 'customerId', `${owes} Confirm it all the same?`, ['overLimit']);
}

/** What went out to a customer, item by item, what was ordered last first: at most 200 items. The price is of one base unit, in the currency of the order it was on last. */
export async function customerItems(act: Act, id: number): Promise<ResponseOf<typeof contract.customerItems>> {
  const { tx, sites, today } = act;
  await refuseNoCustomer(act, id);
  const { db } = tx;
  const each = sql`trim_scale(round(${salesLine.amount} / ${salesLine.baseQuantity}, 4))::text`;
  const lastOn = sql<string>`max(${salesOrder.confirmedAt}::date)::text`;
  /** As it was on the order that was confirmed last. */
  const last = <T>(what: ReturnType<typeof sql>) => sql<T>`(array_agg(${what} order by ${salesOrder.confirmedAt} desc, ${salesLine.id} desc))[1]`;
  const rows = await db
    .select({
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.name,
      quantity: sql<string>`trim_scale(sum(${salesLine.dispatched}))::text`,
      lastOn,
      lastPrice: last<string>(each),
      currency: last<string>(sql`${salesOrder.currency}`),
      times: sql<number>`(count(distinct ${salesOrder.id}) filter (where ${salesOrder.confirmedAt}::date > ${addDays(today, -365)}))::int`,
      lastQuantity: last<string>(sql`${plain(salesLine.quantity)}`),
      lastUnit: last<string>(sql`${salesLine.unit}`),
      lastUnitId: last<number | null>(sql`${lineUnit.id}`),
      numerator: last<number>(sql`${salesLine.factorNumerator}`),
      denominator: last<number>(sql`${salesLine.factorDenominator}`),
      sold: sql<boolean>`${item.retiredAt} is null`,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(lineUnit, eq(lineUnit.code, salesLine.unit))
    .where(
      and(eq(salesOrder.customerId, id), atSites(salesOrder.siteId, sites('look')), gt(salesLine.dispatched, '0'), sql`${salesOrder.confirmedAt} is not null`),
    )
    .groupBy(item.id, unit.id)
    .orderBy(desc(lastOn), item.sku)
    .limit(200);
  return { rows: rows.map(({ numerator, denominator, ...row }) => ({ ...row, factor: { numerator, denominator } })) };
}
