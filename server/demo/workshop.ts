import { MoveForm } from '@larder/contract/moves';
import { takeApart as taking } from '@larder/contract/takingApart';
import { createWorkOrder as creating, pickWorkOrder as picking, type WorkOrder } from '@larder/contract/workOrders';
import { recordWork as recording } from '@larder/contract/workRecords';
import { addDays, daysBetween, weekday } from '@larder/core/day';
import { decimal, least, type Decimal } from '@larder/core/decimal';
import { and, desc, eq, not } from 'drizzle-orm';
import type { Act } from '../act';
import { apartProposal, takeApart } from '../areas/making/apart';
import { freeAt } from '../areas/making/inUse';
import { getWorkOrder, workNow } from '../areas/making/orderQueries';
import { createWorkOrder } from '../areas/making/orders';
import { planned } from '../areas/making/proposal';
import { recordWork } from '../areas/making/recording';
import { pickWorkOrder, workPickList } from '../areas/making/taking';
import { moveGoods } from '../areas/stock/moving';
import { positive } from '../db/given';
import { balance, item, place } from '../db/schema/index';
import { idOf } from './idOf';

const tuesday = 2;
/** What the workshop makes, one after the other: how many at once. */
const rota = [
  ['FR-DN-WX', '20'],
  ['CND-SKEP', '24'],
  ['BROOD-NAT', '2'],
  ['WX-MINI', '10'],
  ['HIVE-NAT', '1'],
  ['PAT-WIN', '20'],
] as const;
/** So many bins what is made goes into. */
const shelvesUsed = 6;
/** Over how many days before today it worked like this. */
const since = 120;

/** What Larkmoor's workshop does: something on most Tuesdays, and this morning work in every stage. */
export class Workshop {
  private turn = 0;

  constructor(
    private readonly siteId: number,
    private readonly last: string,
  ) {}

  async day(act: Act): Promise<void> {
    const before = daysBetween(act.today, this.last);
    if (before === 6) await this.order(act, 'BROOD-NAT', '2', { dueIn: 4 });
    if (before > since || weekday(act.today) !== tuesday) return;
    await this.lookOver(act, 'PAT-WIN');
    const [sku, quantity] = rota[this.turn++ % rota.length] as (typeof rota)[number];
    if (!(await this.isThere(act, sku, quantity))) return;
    const id = await this.order(act, sku, quantity, { dueIn: 2 });
    await this.take(act, id);
    await this.record(act, id, quantity);
  }

  /** One is planned, one is short of something, one picked, one half made, and one waits to be recorded. */
  async thisMorning(act: Act): Promise<void> {
    await this.order(act, 'KIT-FIRST', '2', { dueIn: 9, release: false });
    await this.order(act, 'HIVE-NAT', '5', { dueIn: 5 });
    const frames = await this.order(act, 'FR-DN-WX', '20', { dueIn: 1 });
    await this.take(act, frames);
    if (await this.isWholeAtWork(act, frames)) await this.use(act, frames, '10');
    const patties = await this.order(act, 'PAT-WIN', '10', { dueIn: 2 });
    await this.take(act, patties);
    const candles = await this.order(act, 'CND-SKEP', '24', { dueIn: 0 });
    await this.take(act, candles);
    if (await this.isWholeAtWork(act, candles)) await this.record(act, candles, '10');
    for (const sku of ['HIVE-NAT', 'BROOD-NAT', 'FR-DN-WX']) if (await this.takeApart(act, sku)) break;
  }

  private async isThere(act: Act, sku: string, quantity: string): Promise<boolean> {
    const { components } = await planned(act, await this.itemId(act, sku), decimal(quantity));
    const free = await freeAt(
      act,
      components.map(({ itemId }) => itemId),
      this.siteId,
    );
    return components.every((part) => decimal(free.get(part.itemId) ?? 0).gte(part.quantity));
  }

  private itemId = (act: Act, sku: string): Promise<number> => idOf(act, item, eq(item.sku, sku));

  /** One that was brought back is taken apart, its first part no good; where there is one that nobody waits for. */
  private async takeApart(act: Act, sku: string): Promise<boolean> {
    const itemId = await this.itemId(act, sku);
    const free = (await freeAt(act, [itemId], this.siteId)).get(itemId) ?? '0';
    const [lies] = await act.tx.db
      .select({ binId: place.id })
      .from(balance)
      .innerJoin(place, and(eq(place.id, balance.placeId), eq(place.kind, 'bin'), eq(place.siteId, this.siteId)))
      .where(and(eq(balance.itemId, itemId), positive(balance.quantity)))
      .orderBy(desc(balance.quantity));
    if (!lies || Number(free) < 1) return false;
    const { parts } = await apartProposal(act, { itemId, siteId: this.siteId, quantity: '1' });
    const untracked = parts.filter(({ tracking }) => tracking === 'none');
    const given = untracked.map((part, index) => ({
      itemId: part.itemId,
      planned: part.planned,
      quantity: index === 0 ? '0' : part.planned,
      binId: part.binId,
    }));
    await takeApart(act, taking.body.parse({ itemId, binId: lies.binId, quantity: '1', note: 'a customer brought it back', parts: given }));
    return true;
  }

  private async order(act: Act, sku: string, quantity: string, { dueIn, release = true }: { dueIn: number; release?: boolean }): Promise<number> {
    const itemId = await this.itemId(act, sku);
    const body = { itemId, siteId: this.siteId, quantity, startsOn: act.today, dueOn: addDays(act.today, dueIn), release };
    return (await createWorkOrder(act, creating.body.parse(body))).id as number;
  }

  private async take(act: Act, id: number): Promise<void> {
    const { rows } = await workPickList(act, id);
    const lines = rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
    if (lines.length > 0) await pickWorkOrder(act, id, picking.body.parse({ lines }));
  }

  /** What lay in quarantine was good, and goes to a shelf. */
  private async lookOver(act: Act, sku: string): Promise<void> {
    const itemId = await this.itemId(act, sku);
    const rows = await act.tx.db
      .select({ fromBinId: place.id, lotId: balance.lotId, quantity: balance.quantity })
      .from(balance)
      .innerJoin(place, and(eq(place.id, balance.placeId), eq(place.kind, 'bin'), eq(place.siteId, this.siteId), not(place.sellable)))
      .where(and(eq(balance.itemId, itemId), positive(balance.quantity)));
    const toBinId = (await this.shelves(act))[itemId % shelvesUsed] as number;
    const lines = rows.map(({ fromBinId, lotId, quantity }) => ({ itemId, lotId, quantity, fromBinId, toBinId }));
    if (lines.length > 0) await moveGoods(act, MoveForm.parse({ lines, note: 'looked over, all good' }));
  }

  /** Bins at the end of the walk, which what is made goes into. */
  private async shelves(act: Act): Promise<number[]> {
    const rows = await act.tx.db
      .select({ id: place.id })
      .from(place)
      .where(and(eq(place.siteId, this.siteId), eq(place.kind, 'bin'), place.sellable, not(place.unplaced)))
      .orderBy(desc(place.walk))
      .limit(shelvesUsed);
    return rows.map(({ id }) => id);
  }

  private async isWholeAtWork(act: Act, id: number): Promise<boolean> {
    const { lines } = await workNow(act, id);
    return lines.every(({ needed, atWork }) => decimal(atWork).gte(needed));
  }

  /** What so many take was used already, and nothing is made yet. */
  private async use(act: Act, id: number, many: string): Promise<void> {
    const order = await getWorkOrder(act, id);
    await recordWork(act, id, recording.body.parse({ version: order.version, used: usedFor(order, decimal(many).div(order.quantity)), made: [] }));
  }

  /** So many were made, of just what the order says. */
  private async record(act: Act, id: number, many: string): Promise<void> {
    const order = await getWorkOrder(act, id);
    const share = decimal(many).div(order.quantity);
    const used = usedFor(order, share);
    const bins = await this.shelves(act);
    const made = order.products.map((product, index) => {
      const quantity = index === 0 ? many : decimal(product.quantity).times(share).floor().toFixed();
      return {
        lineId: product.id,
        quantity,
        binId: product.inspected ? null : (bins[(order.itemId + index) % shelvesUsed] ?? null),
        lots: product.nextLot === null ? [] : [{ ...product.nextLot, quantity }],
      };
    });
    const charges = order.costs.map(({ name, per, rate, accountId, quantity }) => ({
      ...{ name, per, rate, accountId },
      quantity: decimal(quantity).times(share).toDecimalPlaces(2).toFixed(),
    }));
    await recordWork(act, id, recording.body.parse({ version: order.version, used, made, charges, otherCost: true }));
  }
}

/** Of each part that share of what the order says, in whole steps, lot by lot. */
const usedFor = ({ lines }: WorkOrder, share: Decimal): { lineId: number; lotId: number | null; quantity: string }[] =>
  lines.flatMap((line) => {
    let left = decimal(line.needed).times(share).div(line.step).floor().times(line.step);
    return line.lots.map(({ lotId, quantity }) => {
      const ofLot = least(left, decimal(quantity));
      left = left.minus(ofLot);
      return { lineId: line.id, lotId, quantity: ofLot.toFixed() };
    });
  });
