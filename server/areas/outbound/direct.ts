import type * as contract from '@larder/contract/direct';
import type { BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, sum } from '@larder/core/decimal';
import type { PriceBreak } from '@larder/core/inbound/terms';
import { beyondOpen, bySupplierAndAddress, directDecided, directOrdered, notOpenSentence, openStraight } from '@larder/core/outbound/straight';
import { Refusal, type FieldError } from '@larder/core/refusal';
import { and, eq, isNull, or, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, atSites, insertRows } from '../../db/given';
import { jsonRows } from '../../db/json';
import { item, itemSupplier, party, salesLine, salesOrder, site, supply, unit } from '../../db/schema/index';
import { plain } from '../../db/text';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { recordOrder } from '../../documents/orders';
import { dropEnded, onOrderStraight, putStraight, straightLines, type StraightLine } from '../../documents/supplies';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { placePurchase, writePurchase } from '../inbound/service';
import { customer } from './waiting';

const idsIn = (list: string): number[] => list.split(',').filter(Boolean).map(Number);

/** Lines that a supplier may send straight to their customers, with what each supplier asks for them. */
export async function directLines(act: Act, query: QueryOf<typeof contract.directLines>): Promise<ResponseOf<typeof contract.directLines>> {
  const onOrder = onOrderStraight(salesLine.id);
  const open = sql`greatest(${salesLine.baseQuantity} - ${salesLine.picked} - ${onOrder}, 0)`;
  const rows = await act.tx.db
    .select({
      lineId: salesLine.id,
      orderId: salesOrder.id,
      number: salesOrder.number,
      position: salesLine.position,
      customer: customer.name,
      address: sql<string>`coalesce(nullif(${salesOrder.shipTo}, ''), ${customer.address}, '')`,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      step: plain(unit.step),
      siteId: site.id,
      site: site.name,
      shipBy: sql<string>`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy})`,
      open: sql<string>`trim_scale(${open})::text`,
      toOrder: sql<string>`trim_scale(greatest(${salesLine.direct} - ${salesLine.sent} - ${onOrder}, 0))::text`,
      short: plain(salesLine.short),
      offers: jsonRows(
        {
          supplierId: party.id,
          supplier: party.name,
          code: itemSupplier.code,
          packSize: plain(itemSupplier.packSize),
          minimum: plain(itemSupplier.minimum),
          price: sql<string | null>`trim_scale(coalesce(${itemSupplier.price}, ${item.purchasePrice}))::text`,
          breaks: sql<PriceBreak[]>`${itemSupplier.breaks}`,
          leadDays: sql<number>`coalesce(${itemSupplier.leadDays}, ${party.leadDays})`,
        },
        (select) =>
          select
            .from(itemSupplier)
            .innerJoin(party, eq(party.id, itemSupplier.supplierId))
            .where(and(eq(itemSupplier.itemId, item.id), party.isSupplier, isNull(party.retiredAt))),
        { orderBy: sql`${itemSupplier.position}, ${party.id}` },
      ),
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(customer, eq(customer.id, salesOrder.customerId))
    .innerJoin(item, eq(item.id, salesLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(site, eq(site.id, salesLine.siteId))
    .where(
      and(
        salesLine.active,
        sql`${open} > 0`,
        or(among(salesLine.id, idsIn(query.lines)), among(salesOrder.id, idsIn(query.orders))),
        atSites(salesLine.siteId, act.sites('inbound.order')),
      ),
    )
    .orderBy(salesOrder.id, salesLine.position)
    .limit(500);
  return { rows };
}

type Asked = BodyOf<typeof contract.orderDirect>['lines'][number];

/** Orders of suppliers what they send straight to customers: for each supplier, customer, address and site a purchase order, placed at once. */
export async function orderDirect(act: Act, { lines: asked }: BodyOf<typeof contract.orderDirect>): Promise<ResponseOf<typeof contract.orderDirect>> {
  const lines = await lockedLines(
    act,
    asked.map(({ lineId }) => lineId),
  );
  await refuseAsked(act, asked, lines);
  await lock.pools(
    act,
    [...lines.values()].map(({ itemId }) => itemId),
  );
  const manyOf = (lineId: number) => sum(asked.filter((one) => one.lineId === lineId).map(({ quantity }) => decimal(quantity)));
  const to = [...lines.values()].map((line) => ({ line, direct: directOrdered(line, manyOf(line.id)) }));
  const groups = bySupplierAndAddress(asked.map((one) => ({ asked: one, line: lines.get(one.lineId) as StraightLine })));
  const orders: Awaited<ReturnType<typeof orderGroup>>[] = [];
  const effects = await putStraight(act, to, async () => {
    for (const group of groups) orders.push(await orderGroup(act, group));
    for (const line of lines.values()) {
      const on = orders.filter((order) => order.lineIds.includes(line.id)).map(({ number }) => number);
      await recordOrder(
        act,
        'sales',
        line.orderId,
        {},
        { straight: `${quantityText(manyOf(line.id))} of ${line.sku} ordered straight from a supplier on ${on.join(', ')}` },
      );
    }
  });
  return { movementId: null, effects, orders: orders.map(({ id, number, supplier }) => ({ id, number, supplier })) };
}

/** Decides how many of a line come straight from a supplier, beside those that are on order or were sent. */
export async function decideDirect(act: Act, id: number, { quantity }: BodyOf<typeof contract.decideDirect>): Promise<Posting> {
  const line = (await lockedLines(act, [id])).get(id);
  if (!line) throw new Refusal(404, 'not-found', 'There is no such line.');
  refuseErrors(await faultsOf(act, [{ lineId: id, quantity }], new Map([[id, line]]), () => 'quantity', true));
  await lock.pools(act, [line.itemId]);
  const direct = directDecided(line, decimal(quantity));
  const effects = await putStraight(act, [{ line, direct }], async () => {
    await recordOrder(act, 'sales', line.orderId, {}, { straight: `${quantityText(quantity)} of ${line.sku} to come straight from a supplier` });
  });
  return { movementId: null, effects };
}

/** Lines as they stand once their orders are locked, at sites where the person sells. */
async function lockedLines(act: Act, lineIds: readonly number[]): Promise<Map<number, StraightLine>> {
  const before = await straightLines(act, lineIds);
  await lock.salesOrders(
    act,
    [...before.values()].map(({ orderId }) => orderId),
  );
  if (!act.tx.readOnly) await dropEnded(act, lineIds);
  const lines = await straightLines(act, lineIds);
  for (const { siteId } of lines.values()) act.allow('outbound.sell', siteId);
  return lines;
}

/** What is wrong with how many of lines are to come straight from a supplier, by field. */
async function faultsOf(
  act: Act,
  asked: readonly { lineId: number; quantity: string }[],
  lines: ReadonlyMap<number, StraightLine>,
  fieldOf: (index: number) => string,
  allowZero = false,
): Promise<FieldError[]> {
  const { items } = await lineFacts(
    act,
    [...lines.values()].map(({ itemId }) => itemId),
  );
  const beyond = beyondOpen(asked, (lineId) => {
    const line = lines.get(lineId);
    return line && openStraight(line);
  });
  return asked.flatMap(({ lineId, quantity }, index): FieldError[] => {
    const line = lines.get(lineId);
    if (!line) return [{ field: fieldOf(index), sentence: 'There is no such line.' }];
    if (!line.active) return [{ field: fieldOf(index), sentence: `${line.number} is not confirmed, or was closed or cancelled.` }];
    const facts = items.get(line.itemId);
    const fault = facts && quantityError(facts, quantity, fieldOf(index), allowZero);
    if (fault) return [fault];
    const more = beyond.find((one) => one.index === index);
    return more ? [{ field: fieldOf(index), sentence: notOpenSentence(more.open, line.sku, line.number) }] : [];
  });
}

async function refuseAsked(act: Act, asked: readonly Asked[], lines: ReadonlyMap<number, StraightLine>): Promise<void> {
  refuseErrors(await faultsOf(act, asked, lines, (index) => `lines.${index}.quantity`));
  const known = await act.tx.db
    .select({ id: party.id })
    .from(party)
    .where(
      and(
        among(
          party.id,
          asked.map(({ supplierId }) => supplierId),
        ),
        party.isSupplier,
        isNull(party.retiredAt),
      ),
    );
  refuseErrors(
    asked.flatMap(({ supplierId, expectedOn }, index): FieldError[] => {
      if (!known.some(({ id }) => id === supplierId)) return [{ field: `lines.${index}.supplierId`, sentence: 'There is no such supplier.' }];
      return expectedOn !== null && expectedOn < act.today ? [{ field: `lines.${index}.expectedOn`, sentence: 'This day has passed already.' }] : [];
    }),
  );
  for (const { siteId } of lines.values()) act.allow('inbound.order', siteId);
}

/** Writes and places the purchase order of a group, and notes which of its lines is for which sales line. */
async function orderGroup(act: Act, lines: readonly { line: StraightLine; asked: Asked }[]) {
  const [{ line: first, asked: of }] = lines as [(typeof lines)[number]];
  const days = lines.flatMap(({ asked }) => asked.expectedOn ?? []).sort();
  const order = await writePurchase(act, {
    supplierId: of.supplierId,
    siteId: first.siteId,
    shipsToId: first.customerId,
    shipTo: first.shipTo,
    expectedOn: days.at(-1) ?? null,
    orderedOn: null,
    rate: '1',
    note: '',
    charges: [],
    lines: lines.map(({ line, asked }) => ({
      itemId: line.itemId,
      unitId: null,
      quantity: asked.quantity,
      price: asked.price,
      pricePer: '1',
      expectedOn: asked.expectedOn,
    })),
  });
  await placePurchase(act, order.id);
  await insertRows(
    act.tx,
    supply,
    lines.map(({ line, asked }, index) => ({ salesLineId: line.id, purchaseLineId: order.lines[index]?.id as number, quantity: asked.quantity })),
  );
  await recordOrder(act, 'purchase', order.id, { state: 'draft' }, { state: 'placed' });
  return { id: order.id, number: order.number, supplier: order.supplier, lineIds: lines.map(({ line }) => line.id) };
}
