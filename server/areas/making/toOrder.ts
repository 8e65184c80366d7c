import { decimal, quantityText, type Decimal } from '@larder/core/decimal';
import { together } from '@larder/core/ledger/effects';
import type { Effects } from '@larder/core/ledger/types';
import { planToOrder, toComeOf, type OrderedLine } from '@larder/core/making/toOrder';
import { Refusal } from '@larder/core/refusal';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, updateRows } from '../../db/given';
import { bom, bomByProduct, bomPart, documentLine, item, itemSite, salesLine, salesOrder, transferLine, workOrder } from '../../db/schema/index';
import { plain } from '../../db/text';
import { recordOrder } from '../../documents/orders';
import { lock } from '../../ledger/lock';
import { endCancelled, setDecision } from './decisions';
import { bomsInUse } from './inUse';
import { workNow, type WorkNowRow } from './orderQueries';
import { planWorkOrder } from './orders';

/**
 * The work orders going on for lines of a sales order. They are locked, and then the pools of whatever may be wanted or let go with the order: the items
 * on it, parts of what is put together, and what that work
 * takes. Asked before lines change.
 */
export async function workOfSale(act: Act, saleId: number, itemIds: readonly number[]): Promise<WorkNowRow[]> {
  const rows = await act.tx.db
    .select({ id: workOrder.id })
    .from(workOrder)
    .innerJoin(salesLine, eq(salesLine.id, workOrder.salesLineId))
    .where(and(eq(salesLine.orderId, saleId), isNull(workOrder.endedAt), isNull(workOrder.cancelledAt)))
    .orderBy(workOrder.id);
  const ids = rows.map(({ id }) => id);
  await lock.workOrders(act, ids);
  const orders: WorkNowRow[] = [];
  for (const id of ids) orders.push(await workNow(act, id));
  const taken = orders.flatMap(({ lines, products }) => [...lines, ...products].map(({ itemId }) => itemId));
  await lock.pools(act, [...itemIds, ...taken, ...(await partsOf(act, itemIds))]);
  return orders.filter(({ ended }) => !ended);
}

/** What the bills in use say of what is put together when it is ordered: its parts, and what else comes of it. */
async function partsOf(act: Act, itemIds: readonly number[]): Promise<number[]> {
  const { db } = act.tx;
  if (act.tx.readOnly) return [];
  const made = await db
    .select({ id: item.id })
    .from(item)
    .where(and(item.madeToOrder, among(item.id, itemIds)));
  if (made.length === 0) return [];
  const bills = await bomsInUse(
    act,
    among(
      bom.itemId,
      made.map(({ id }) => id),
    ),
  );
  const billIds = bills.map(({ id }) => id);
  const parts = await db.select({ itemId: bomPart.itemId }).from(bomPart).where(among(bomPart.bomId, billIds));
  const others = await db.select({ itemId: bomByProduct.itemId }).from(bomByProduct).where(among(bomByProduct.bomId, billIds));
  return [...parts, ...others].map(({ itemId }) => itemId);
}

/** What goes on for a sales order, and what becomes of it. */
interface Fitting {
  /** Nothing is wanted for it any more. */
  ends?: boolean;
  /** Lines that are needed on another day than before: what is made for them is due then. */
  moved?: readonly number[];
  asIf?: AsIf;
}

/** What a preview has to be told of the lines of an order, since nothing is written: how many those that are changed want of which site, and those that are added. */
export interface AsIf {
  lines: readonly { id: number; siteId: number; wanted: Decimal }[];
  added: readonly { itemId: number; siteId: number; wanted: Decimal; neededOn: string }[];
}

/**
 * Has what is put together when it is ordered made for a sales order, as far as its lines are short of it, once the order was decided on or changed; and
 * calls off what it had made and needs no more, as far as
 * nobody began it. `work`: what goes on for it, as it was locked before. Returns what that changes.
 */
export async function fitWork(
  act: Act,
  sale: { id: number; number: string },
  work: readonly WorkNowRow[],
  { ends = false, moved = [], asIf }: Fitting = {},
): Promise<Effects> {
  const lines = ends ? [] : await linesToOrder(act, sale.id, act.tx.readOnly ? asIf : undefined);
  let effects: Effects = { rows: [], notes: [], costNotes: [] };
  if (lines.length === 0 && work.length === 0) return effects;
  const free = await freeOf(act, lines);
  const going = work.map((one) => ({
    id: one.id,
    lineId: one.salesLineId,
    siteId: one.siteId,
    toCome: toComeOf(one),
    follows: one.followsSale && !isBegun(one),
  }));
  const { off, make } = planToOrder(lines, free, going);
  for (const one of work.filter(({ id }) => off.includes(id))) {
    const { effects: ended } = await endCancelled(act, one);
    effects = together(effects, { ...ended, notes: [...ended.notes, `${one.number} is called off: ${sale.number} needs no more of it.`] });
  }
  for (const one of work.filter(({ id }) => !off.includes(id))) {
    if (ends) effects = together(effects, { rows: [], notes: [`${one.number} goes on: what it makes is nobody’s yet.`], costNotes: [] });
    else if (one.salesLineId !== null && moved.includes(one.salesLineId)) await becomeDue(act, one, lines);
  }
  for (const { line, quantity } of make) effects = together(effects, await orderMade(act, sale, lines[line] as ToOrder, quantity));
  return effects;
}

const isBegun = ({ lines, records, rests }: WorkNowRow): boolean =>
  lines.some(({ taken }) => Number(taken) > 0) || records.some(({ undone }) => !undone) || rests.length > 0;

interface ToOrder extends OrderedLine {
  sku: string;
  neededOn: string;
}

const query = () => new QueryBuilder();
/** What other sites were asked to send for a line, or will be. */
const broughtFor = sql<string>`(${salesLine.bring} + coalesce((${query()
  .select({ sum: sql`sum(${transferLine.incoming})` })
  .from(transferLine)
  .where(eq(transferLine.salesLineId, salesLine.id))}), 0))::text`;

/** Lines of an order of what is put together when it is ordered. */
async function linesToOrder({ tx: { db } }: Act, saleId: number, asIf: AsIf | undefined): Promise<ToOrder[]> {
  const rows = await db
    .select({
      lineId: salesLine.id,
      itemId: salesLine.itemId,
      sku: item.sku,
      siteId: salesLine.siteId,
      wanted: sql<string>`(${salesLine.baseQuantity} - ${salesLine.direct} - (${salesLine.picked} - ${salesLine.sent}))::text`,
      reserved: plain(salesLine.reserved),
      brought: broughtFor,
      neededOn: sql<string>`coalesce(${salesLine.shipBy}, ${salesOrder.shipBy})::text`,
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(item, and(eq(item.id, salesLine.itemId), item.madeToOrder))
    .where(and(eq(salesLine.orderId, saleId), salesLine.stocked))
    .orderBy(salesLine.position);
  const lines = rows.map(({ wanted, reserved, brought, ...row }): ToOrder => {
    const is = asIf?.lines.find(({ id }) => id === row.lineId);
    const siteId = is?.siteId ?? row.siteId;
    return { ...row, siteId, wanted: is?.wanted ?? decimal(wanted), reserved: decimal(siteId === row.siteId ? reserved : 0), brought: decimal(brought) };
  });
  const added = asIf?.added ?? [];
  if (added.length === 0) return lines;
  const known = await db
    .select({ id: item.id, sku: item.sku })
    .from(item)
    .where(
      and(
        item.madeToOrder,
        among(
          item.id,
          added.map(({ itemId }) => itemId),
        ),
      ),
    );
  return [
    ...lines,
    ...added.flatMap((one): ToOrder[] => {
      const sku = known.find(({ id }) => id === one.itemId)?.sku;
      return sku === undefined ? [] : [{ ...one, lineId: null, sku, reserved: decimal(0), brought: decimal(0) }];
    }),
  ];
}

/** What of items is free at the sites of these lines. */
async function freeOf({ tx: { db } }: Act, lines: readonly OrderedLine[]): Promise<(itemId: number, siteId: number) => Decimal> {
  const rows = await db
    .select({ itemId: itemSite.itemId, siteId: itemSite.siteId, free: itemSite.free })
    .from(itemSite)
    .where(
      among(
        itemSite.itemId,
        lines.map(({ itemId }) => itemId),
      ),
    );
  return (itemId, siteId) => decimal(rows.find((row) => row.itemId === itemId && row.siteId === siteId)?.free ?? 0);
}

/** Work that follows its sales order is due with it. */
async function becomeDue(act: Act, one: WorkNowRow, lines: readonly ToOrder[]): Promise<void> {
  const line = lines.find(({ lineId }) => lineId !== null && lineId === one.salesLineId);
  if (!line || !one.followsSale || act.tx.readOnly) return;
  const dueOn = laterOf(one.startsOn, line.neededOn);
  if (dueOn === one.dueOn) return;
  await setDecision(act, one, { dueOn }, 'due with its order');
  await updateRows(
    act.tx,
    documentLine,
    one.products.map(({ id }) => ({ id, neededOn: dueOn })),
  );
}
const laterOf = (day: string, other: string): string => (day > other ? day : other);

/** Has so many made for a line, from today; nothing where no bill says of what. */
async function orderMade(act: Act, sale: { id: number }, line: ToOrder, quantity: Decimal): Promise<Effects> {
  const { itemId, siteId, lineId, sku, neededOn } = line;
  const head = { itemId, siteId, quantity: quantity.toFixed(), startsOn: act.today, dueOn: laterOf(act.today, neededOn) };
  const words = `${quantityText(quantity)} ${sku}`;
  const made = await planWorkOrder(act, head, { salesLineId: lineId, followsSale: true }).catch((error: unknown) => {
    // Who sells is told what stands in the way, and sells all the same.
    if (error instanceof Refusal && error.status === 422) return error;
    throw error;
  });
  if (made === null || made instanceof Refusal) {
    const why = made === null ? `no bill of ${sku} is in use.` : made.message;
    return { rows: [], notes: [`${words} cannot be put together: ${why}`], costNotes: [] };
  }
  if (!act.tx.readOnly) await recordOrder(act, 'sales', sale.id, {}, { made: `${made.number ?? ''} puts ${words} together` });
  const { rows, notes, costNotes } = made.effects;
  return { rows, notes: [...notes, `${made.number ?? 'A work order'} puts ${words} together.`], costNotes: costNotes ?? [] };
}
