import type * as contract from '@larder/contract/gaps';
import type { availability as availabilityContract } from '@larder/contract/outbound';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, sum } from '@larder/core/decimal';
import { promisePassed } from '@larder/core/outbound/shipBy';
import { Refusal, refuseField } from '@larder/core/refusal';
import { availableOn } from '@larder/core/stock/availability';
import { and, eq, ne, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, positive } from '../../db/given';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { componentTerms, documentLine, item, party, salesLine, salesOrder, salesTerms, site, transfer, transferTerms, workOrder } from '../../db/schema/index';
import { plain } from '../../db/text';
import { recordOrder } from '../../documents/orders';
import { onOrderStraight } from '../../documents/supplies';
import { changeDemand, holdStock as hold } from '../../ledger/changeDemand';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { availability } from './availability';

const other = alias(documentLine, 'other_line');
const otherTerms = alias(salesTerms, 'other_terms');
const otherOrder = alias(salesOrder, 'other_order');
const customer = alias(party, 'other_customer');
const otherTransfer = alias(transfer, 'other_transfer');
const toSite = alias(site, 'other_site');
const otherWork = alias(workOrder, 'other_work');
const made = alias(item, 'made_item');

/** A line of a confirmed order, with the lines that hold some of its item at its site. */
const readLine = prepared(['id'], (db, { id }) =>
  db
    .select({
      lineId: salesLine.id,
      orderId: salesOrder.id,
      number: salesOrder.number,
      position: salesLine.position,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      siteId: site.id,
      site: site.name,
      active: salesLine.active,
      stocked: salesLine.stocked,
      wanted: plain(salesLine.wanted),
      reserved: plain(salesLine.reserved),
      short: plain(salesLine.short),
      neededOn: sql<string>`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy})`,
      promisedOn: salesLine.promisedOn,
      standsBack: salesLine.standsBack,
      toOrder: sql<string>`trim_scale(greatest(${salesLine.direct} - ${salesLine.sent} - ${onOrderStraight(salesLine.id)}, 0))::text`,
      holders: jsonRows(
        {
          lineId: other.id,
          kind: sql<'sales' | 'transfer' | 'work'>`case ${other.kind} when 'component' then 'work' else ${other.kind} end`,
          orderId: sql<number>`coalesce(${otherOrder.id}, ${otherTransfer.id}, ${otherWork.id})`,
          number: other.number,
          position: other.position,
          customer: sql<string>`coalesce(${customer.name}, ${toSite.name}, ${made.sku})`,
          shipBy: sql<string>`coalesce(${other.neededOn}, ${otherOrder.shipBy})`,
          promisedOn: other.promisedOn,
          reserved: plain(other.reserved),
        },
        (select) =>
          select
            .from(other)
            .leftJoin(otherTerms, eq(otherTerms.id, other.id))
            .leftJoin(otherOrder, eq(otherOrder.id, otherTerms.orderId))
            .leftJoin(customer, eq(customer.id, otherOrder.customerId))
            .leftJoin(transferTerms, eq(transferTerms.id, other.id))
            .leftJoin(otherTransfer, eq(otherTransfer.id, transferTerms.transferId))
            .leftJoin(toSite, eq(toSite.id, otherTransfer.toSiteId))
            .leftJoin(componentTerms, eq(componentTerms.id, other.id))
            .leftJoin(otherWork, eq(otherWork.id, componentTerms.workOrderId))
            .leftJoin(made, eq(made.id, otherWork.itemId))
            .where(
              and(
                eq(other.itemId, salesLine.itemId),
                eq(other.siteId, salesLine.siteId),
                ne(other.id, salesLine.id),
                positive(other.wanted),
                positive(other.reserved),
              ),
            ),
        { orderBy: sql`${other.promisedOn} nulls last, ${other.neededOn}, ${other.id}` },
      ),
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(site, eq(site.id, salesLine.siteId))
    .where(sql`${salesLine.id} = ${id}`),
);
type Line = Awaited<ReturnType<typeof readLine>>[number];

/** Why a line of a confirmed order is short: who holds the stock, what comes, and by when all that it is short of could be here. */
export async function lineGap(act: Act, id: number): Promise<ResponseOf<typeof contract.lineGap>> {
  const { active: _active, stocked: _stocked, lineId: _lineId, neededOn: _neededOn, ...line } = await lineOf(act, id);
  act.allow('look', line.siteId);
  const found = await availability(act, { siteId: line.siteId, itemId: line.itemId, quantity: '0' });
  // What this line is short of stands among what is wanted there already: it is left out, and asked for anew.
  const day = decimal(line.short).isZero() ? act.today : availableOn(await projectionWithout(act, id, line, found), decimal(line.short));
  return { ...line, availableOn: day, coming: found.coming, elsewhere: found.elsewhere, substitutes: found.substitutes };
}

async function projectionWithout(
  { tx, today }: Act,
  id: number,
  { itemId, siteId }: Pick<Line, 'itemId' | 'siteId'>,
  found: ResponseOf<typeof availabilityContract>,
) {
  const demand = await tx.db
    .select({ day: sql<string>`${documentLine.neededOn}`, quantity: documentLine.short, document: documentLine.number })
    .from(documentLine)
    .where(
      and(
        eq(documentLine.itemId, itemId),
        eq(documentLine.siteId, siteId),
        positive(documentLine.short),
        positive(documentLine.wanted),
        ne(documentLine.id, id),
      ),
    );
  return {
    today,
    free: decimal(found.free),
    incoming: found.coming.flatMap((one) =>
      one.expectedOn === null ? [] : [{ day: one.expectedOn, quantity: decimal(one.quantity), document: one.orderNumber }],
    ),
    demand: demand.map((one) => ({ ...one, quantity: decimal(one.quantity) })),
  };
}

/** Gives what other orders hold to a line that is short; it is written down with all of them. */
export async function holdStock(act: Act, id: number, { from }: BodyOf<typeof contract.holdStock>): Promise<Posting> {
  const ids = [id, ...from.map(({ lineId }) => lineId)];
  const orders = await ordersOf(act, ids);
  await lock.salesOrders(
    act,
    orders.map(({ orderId }) => orderId),
  );
  await lock.transfersOf(act, ids);
  const line = await openLine(act, id, 'outbound.hold');
  await lock.pools(act, [line.itemId]);
  const given = from.map(({ lineId, quantity }) => ({ lineId, quantity: decimal(quantity) }));
  const numberOf = (lineId: number) => line.holders.find((one) => one.lineId === lineId)?.number ?? '';
  const said = (lineId: number, many: string): string =>
    lineId === id ? `${many} of ${line.sku} from ${from.map((one) => numberOf(one.lineId)).join(', ')}` : `${many} of ${line.sku} given to ${line.number}`;
  const all = quantityText(sum(given.map(({ quantity }) => quantity)));
  const effects = await hold(act, { id, itemId: line.itemId, siteId: line.siteId }, given, async () => {
    for (const { orderId, lineId } of orders)
      await recordOrder(act, 'sales', orderId, {}, { held: said(lineId, from.find((one) => one.lineId === lineId)?.quantity ?? all) });
  });
  return { movementId: null, effects };
}

/** Lets others go before a line, or takes that back. */
export async function standBack(act: Act, id: number, { back }: BodyOf<typeof contract.standBack>): Promise<Posting> {
  return changeLine(act, id, 'outbound.hold', { standsBack: back }, (line) => ({
    held: back ? `${line.sku} lets others go first` : `${line.sku} is served again`,
  }));
}

/** Promises a day for what a line is short of, or takes that back. */
export async function promiseLine(act: Act, id: number, { promisedOn }: BodyOf<typeof contract.promiseLine>): Promise<Posting> {
  if (promisedOn !== null && promisedOn < act.today) throw refuseField(422, 'past-day', 'promisedOn', promisePassed);
  return changeLine(act, id, 'outbound.sell', { promisedOn }, (line) => ({
    promised: promisedOn === null ? `${line.sku} for no day` : `${line.sku} for ${promisedOn}`,
  }));
}

/** Changes how a line is served; what it holds then is seen to at once. */
async function changeLine(
  act: Act,
  id: number,
  right: 'outbound.hold' | 'outbound.sell',
  to: { standsBack?: boolean; promisedOn?: string | null },
  said: (line: Line) => object,
): Promise<Posting> {
  await lock.salesOrders(
    act,
    (await ordersOf(act, [id])).map(({ orderId }) => orderId),
  );
  const line = await openLine(act, id, right);
  await lock.pools(act, [line.itemId]);
  const { itemId, siteId, neededOn, promisedOn, standsBack } = line;
  const becomes = { siteId, wanted: decimal(line.wanted), neededOn, promisedOn, standsBack, ...to };
  const effects = await changeDemand(act, { decided: [{ id, itemId, siteId, becomes }] }, async () => {
    await act.tx.db.update(documentLine).set(to).where(eq(documentLine.id, id));
    await recordOrder(act, 'sales', line.orderId, {}, said(line));
    return undefined;
  });
  return { movementId: null, effects };
}

async function lineOf({ tx }: Act, id: number): Promise<Line> {
  const [line] = await readLine(tx, { id });
  if (!line) throw new Refusal(404, 'not-found', 'There is no such line.');
  return line;
}

/** A line that wants something still, at a site where the person may do it. */
async function openLine(act: Act, id: number, right: 'outbound.hold' | 'outbound.sell'): Promise<Line> {
  const line = await lineOf(act, id);
  act.allow(right, line.siteId);
  if (!line.active) throw new Refusal(409, 'not-open', `${line.number} is not confirmed, or was closed or cancelled.`);
  if (!line.stocked) throw new Refusal(409, 'not-kept', `${line.sku} is not kept in stock: it is never short.`);
  return line;
}

/** The orders that lines are on. */
const ordersOf = ({ tx: { db } }: Act, lineIds: readonly number[]) =>
  db
    .select({ lineId: salesLine.id, orderId: salesOrder.id, number: salesOrder.number })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(among(salesLine.id, lineIds));
