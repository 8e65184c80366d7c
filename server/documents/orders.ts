import { decisionFault, orderWays, type OrderDecision, type OrderFacts, type OrderLineFacts, type OrderSort } from '@larder/core/order';
import { decimal } from '@larder/core/decimal';
import { Refusal, refuseField } from '@larder/core/refusal';
import type { Right } from '@larder/contract/rights';
import { and, eq, isNull, sql, type SQL } from 'drizzle-orm';
import type { PgInsertValue, PgTable, PgUpdateSetSource } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import type { Asking } from '../db/database';
import { among } from '../db/given';
import { jsonRows } from '../db/json';
import { prepared } from '../db/prepared';
import { documentLine, party, purchaseOrder, purchaseTerms, salesOrder, salesTerms, site } from '../db/schema/index';
import { plain } from '../db/text';
import { lock } from '../ledger/lock';
import { recordChanges, refuseStale } from './changes';
import { addLines, type LineHead } from './documentLines';
import { refuseErrors, type WrittenLine } from './lines';
import { nextNumber } from './number';

/** What orders of all sorts have in common: they are begun as a draft, written on, decided on, and ended. */
interface Order extends OrderFacts {
  id: number;
  version: number;
  siteId: number;
  lines: readonly (OrderLineFacts & { id: number; itemId: number; siteId: number })[];
}

type OrderTable = typeof purchaseOrder | typeof salesOrder;

const read = (sort: OrderSort, table: OrderTable, decidedAt: typeof purchaseOrder.placedAt | typeof salesOrder.confirmedAt, direct: SQL<boolean>) =>
  prepared(['id'], (db, { id }) =>
    db
      .select({
        id: table.id,
        number: table.number,
        version: table.version,
        siteId: table.siteId,
        decided: sql<boolean>`${decidedAt} is not null`,
        closed: sql<boolean>`${table.closedAt} is not null`,
        cancelled: sql<boolean>`${table.cancelledAt} is not null`,
        direct,
        lines: jsonRows(
          {
            id: documentLine.id,
            itemId: documentLine.itemId,
            siteId: documentLine.siteId,
            stocked: documentLine.stocked,
            ordered: plain(documentLine.baseQuantity),
            cancelled: plain(documentLine.cancelled),
            arrived: plain(documentLine.arrived),
            drawn: plain(documentLine.drawn),
            straight: sql<string>`(${documentLine.direct} - ${documentLine.sent})::text`,
            finished: plain(documentLine.finished),
          },
          (select) => select.from(documentLine).where(and(eq(documentLine.kind, sort), eq(documentLine.number, table.number))),
          { orderBy: documentLine.position },
        ),
      })
      .from(table as PgTable)
      .where(sql`${table.id} = ${id}`),
  );

interface Sort {
  table: OrderTable;
  terms: typeof purchaseTerms | typeof salesTerms;
  /** In its history and its numbers. */
  name: 'purchase order' | 'sales order';
  /** The right to write it and decide on it. */
  right: Right;
  lock: (act: Act, ids: readonly number[]) => Promise<void>;
  read: (tx: Asking, values: { id: number }) => Promise<OrderRow[]>;
}
type OrderRow = Awaited<ReturnType<ReturnType<typeof read>>>[number];

const sorts: Record<OrderSort, Sort> = {
  purchase: {
    table: purchaseOrder,
    terms: purchaseTerms,
    name: 'purchase order',
    right: 'inbound.order',
    lock: lock.purchaseOrders,
    read: read('purchase', purchaseOrder, purchaseOrder.placedAt, sql`${purchaseOrder.shipsToId} is not null`),
  },
  sales: {
    table: salesOrder,
    terms: salesTerms,
    name: 'sales order',
    right: 'outbound.sell',
    lock: lock.salesOrders,
    read: read('sales', salesOrder, salesOrder.confirmedAt, sql`false`),
  },
};

/** An order to be changed or decided on: locked, as it stands, which must be how the person saw it and at a site where they may. */
export async function takeOrder(act: Act, sort: OrderSort, id: number, version: number): Promise<Order> {
  await sorts[sort].lock(act, [id]);
  const [row] = await sorts[sort].read(act.tx, { id });
  if (!row) throw new Refusal(404, 'not-found', `There is no such ${sorts[sort].name}.`);
  act.allow(sorts[sort].right, row.siteId);
  refuseStale(version, row.version, row.number);
  const lines = row.lines.map(({ id: lineId, itemId, siteId, stocked, ordered, cancelled, arrived, drawn, straight, finished }) => ({
    id: lineId,
    itemId,
    siteId,
    stocked,
    ordered: decimal(ordered),
    cancelled: decimal(cancelled),
    arrived: decimal(arrived),
    drawn: decimal(drawn),
    straight: decimal(straight),
    finished: decimal(finished),
  }));
  return { ...row, lines };
}

/** The same for one that is still written on. */
export async function takeDraft(act: Act, sort: OrderSort, id: number, version: number): Promise<Order> {
  const order = await takeOrder(act, sort, id, version);
  const { state, isDraft } = orderWays[sort].standing(order);
  if (!isDraft) throw new Refusal(409, `not-a-${orderWays[sort].draft}`, `${order.number} is ${state} and can no longer be changed here.`);
  return order;
}

/** Refuses a decision that an order does not allow as it stands. */
export function refuseDecision(sort: OrderSort, order: Order, decision: OrderDecision): void {
  const fault = decisionFault(sort, order, decision);
  if (fault) throw new Refusal(409, fault.type, fault.sentence);
}

/** Writes the head of a new order, under the next number. */
export async function beginOrder<T extends OrderTable>(act: Act, sort: OrderSort, head: Partial<T['$inferInsert']>): Promise<{ id: number; number: string }> {
  const { table, name } = sorts[sort];
  const number = await nextNumber(act, name);
  const values = { ...head, number, createdAt: act.now.toISOString(), createdBy: act.by.id };
  const [added] = await act.tx.db
    .insert(table as PgTable)
    .values(values as PgInsertValue<PgTable>)
    .returning({ id: table.id });
  return { id: added?.id as number, number };
}

/** Writes on an order: it is another version from now on. */
export async function changeOrder<T extends OrderTable>(
  act: Act,
  sort: OrderSort,
  { id, version }: { id: number; version: number },
  changed: Partial<T['$inferInsert']>,
): Promise<void> {
  const { table } = sorts[sort];
  await act.tx.db
    .update(table as PgTable)
    .set({ ...changed, version: version + 1 } as PgUpdateSetSource<PgTable>)
    .where(eq(table.id, id));
}

/** Adds lines to an order: what they bring or want, and what was agreed for them. */
export async function addOrderLines(
  act: Act,
  sort: OrderSort,
  order: { id: number } & Omit<LineHead, 'kind'>,
  lines: readonly (WrittenLine & {
    neededOn?: string | null;
    promisedOn?: string | null;
    direct?: string;
    siteId?: number | null;
    askedItemId?: number | null;
    bring?: string;
    bringFromId?: number | null;
  })[],
): Promise<void> {
  if (lines.length === 0) return;
  const { id: orderId, ...head } = order;
  const ids = await addLines(act, { ...head, kind: sort }, lines);
  const rows = lines.map((line, index) => ({ ...line, id: ids[index] as number, orderId }));
  await act.tx.db.insert(sorts[sort].terms as PgTable).values(rows as PgInsertValue<PgTable>[]);
}

/** Writes down what an edit or a decision changed of an order; `isCost` says which of it only those see who may see cost. */
export const recordOrder = (act: Act, sort: OrderSort, id: number, was: object, is: object, isCost?: (field: string) => boolean): Promise<void> =>
  recordChanges(act, sorts[sort].name, id, was, is, isCost);

/** Refuses, by their fields, sites of lines that are none, were given up, or at which the person may not do it. */
export async function refuseLineSites(act: Act, right: Right, lines: readonly { siteId: number | null }[], list = 'lines'): Promise<void> {
  const own = [...new Set(lines.flatMap(({ siteId }) => siteId ?? []))];
  if (own.length === 0) return;
  const known = await act.tx.db
    .select({ id: site.id })
    .from(site)
    .where(and(among(site.id, own), isNull(site.retiredAt)));
  refuseErrors(
    lines.flatMap(({ siteId }, index) =>
      siteId === null || known.some(({ id }) => id === siteId) ? [] : [{ field: `${list}.${index}.siteId`, sentence: 'There is no such site.' }],
    ),
  );
  for (const siteId of own) act.allow(right, siteId);
}

/** Refuses to open an order again at a site that was retired since. */
export async function refuseRetiredSite({ tx: { db } }: Act, siteId: number): Promise<void> {
  const [here] = await db.select({ name: site.name, retiredAt: site.retiredAt }).from(site).where(eq(site.id, siteId));
  if (here && here.retiredAt !== null) throw new Refusal(409, 'site-retired', `${here.name} is retired; take it back into use first.`);
}

/** Refuses, by their fields, a party that is none of this kind, or a site that is none, or both that were given up. */
export async function refuseWhere(act: Act, who: { as: 'supplier' | 'customer'; field: string; id: number }, siteId: number): Promise<void> {
  const { db } = act.tx;
  const [known, here] = await Promise.all([
    db.$count(party, and(eq(party.id, who.id), who.as === 'supplier' ? party.isSupplier : party.isCustomer, isNull(party.retiredAt))),
    db.$count(site, and(eq(site.id, siteId), isNull(site.retiredAt))),
  ]);
  if (known === 0) throw refuseField(404, `no-such-${who.as}`, who.field, `There is no such ${who.as}.`);
  if (here === 0) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
}
