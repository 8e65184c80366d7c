import { ReceiptForm } from '@larder/contract/receiving';
import { addDays, daysBetween, nextWorkday, weekday, type Day } from '@larder/core/day';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import { and, eq, sql } from 'drizzle-orm';
import { positive } from '../db/given';
import type { Act } from '../act';
import { deskLines } from '../areas/inbound/deskLines';
import { purchase } from '../areas/inbound/queries';
import { receive } from '../areas/inbound/receive';

import { endSale } from '../areas/outbound/service';
import { dispatch } from '../areas/outbound/dispatch';
import { topUpList } from '../areas/planning/topUp';
import { orderTopUp } from '../areas/planning/service';
import { correct } from '../areas/stock/service';
import { reverse } from '../ledger/reverse';
import type { Dice } from './dice';
import { seasons } from './larkmoor';
import { lotsOf } from './lots';
import type { Larkmoor, Stocked } from './catalog';
import { balance, department, itemSite, itemSupplier, reason, salesLine, salesOrder } from '../db/schema/index';
import type { Carriage } from './carriage';
import { countSome } from './counting';
import { lendEarlier } from './lending';
import { idOf } from './idOf';
import { takeAll } from './picking';
import { sell } from './sell';
import type { OpenOrder, Standing } from './standing';

/** Of the last so many days what is sent goes by carrier. */
const byCarrierDays = 24;

/** Trade day by day, through the same services as people use: what arrives, what is ordered, what goes out. */
export class Trade {
  private readonly open: OpenOrder[] = [];
  private month = '';
  /** Purchase orders by the day their goods really arrive, and which part of what is open. */
  private readonly arrivals = new Map<Day, { orderId: number; part: number }[]>();

  constructor(
    private readonly business: Larkmoor,
    private readonly dice: Dice,
    private readonly last: Day,
    private readonly carriage: Carriage,
    private readonly standing: Standing,
  ) {}

  async day(act: Act): Promise<void> {
    if ([0, 6].includes(weekday(act.today))) return;
    await this.dearer(act);
    for (const { orderId, part } of this.arrivals.get(act.today) ?? []) await this.arrive(act, orderId, part);
    if ([1, 4].includes(weekday(act.today))) await this.reorder(act);
    const stands = await this.standing.day(act);
    if (stands) this.open.push(stands);
    await this.sell(act);
    await this.ship(act);
    if (weekday(act.today) === 5) await this.putRight(act);
    if (weekday(act.today) === 2 && Number(act.today.slice(8)) <= 7) await countSome(act, this.business.sites[0]?.id as number);
    const ago = daysBetween(act.today, this.last);
    if (weekday(act.today) === 3 && ago >= 14 && ago < 21) await lendEarlier(act, this.business.sites[0]?.id as number);
  }

  /** Suppliers' new price lists: some raise theirs in spring, some in autumn. */
  private async dearer(act: Act): Promise<void> {
    const month = act.today.slice(5, 7);
    if (month === this.month) return;
    const turn = { '04': 0, '10': 1 }[month];
    if (this.month !== '' && turn !== undefined)
      await act.tx.db
        .update(itemSupplier)
        .set({
          price: sql`round(${itemSupplier.price} * 1.035, 3)`,
          breaks: sql`coalesce((select jsonb_agg(jsonb_build_object('from', b ->> 'from', 'price', trim_scale(round((b ->> 'price')::numeric * 1.035, 3))::text))
            from jsonb_array_elements(${itemSupplier.breaks}) b), '[]')`,
        })
        .where(sql`${itemSupplier.supplierId} % 2 = ${turn}`);
    this.month = month;
  }

  private async arrive(act: Act, orderId: number, part: number): Promise<void> {
    const wanted = (await deskLines(act)).filter((line) => line.orderId === orderId);
    const lines = wanted.flatMap((line) => {
      const quantity = Math.ceil(Number(line.outstanding) * part);
      return quantity > 0 && line.binId !== null
        ? [{ lineId: line.lineId, quantity: String(quantity), binId: line.binId, lots: lotsOf(line.tracking, line.sku, quantity, act.today) }]
        : [];
    });
    if (lines.length === 0) return;
    await receive(act, ReceiptForm.parse({ lines, packingNote: `DN ${this.dice.between(10000, 99999)}` }));
    if (part < 1) this.expect(addDays(act.today, this.dice.between(3, 6)), orderId, 1);
  }

  private expect(day: Day, orderId: number, part: number): void {
    const on = nextWorkday(day);
    this.arrivals.set(on, [...(this.arrivals.get(on) ?? []), { orderId, part }]);
  }

  private async reorder(act: Act): Promise<void> {
    const rows = (await topUpList(act)).flatMap((row) =>
      row.supplierId === null ? [] : [{ itemId: row.itemId, siteId: row.siteId, supplierId: row.supplierId, fromSiteId: null, quantity: row.propose }],
    );
    if (rows.length === 0) return;
    const { orders } = await orderTopUp(act, { rows, place: true });
    for (const { id } of orders) {
      const order = await purchase(act, id);
      const late = this.dice.roll() < 0.2 ? this.dice.between(2, 6) : this.dice.between(-1, 1);
      this.expect(addDays(order.expectedOn ?? act.today, late), id, this.dice.roll() < 0.15 ? 0.6 : 1);
    }
  }

  private async sell(act: Act): Promise<void> {
    const month = Number(act.today.slice(5, 7)) - 1;
    const weights = this.business.items.map((item) => Math.sqrt(item.weekly) * (seasons[item.season][month] as number));
    const orders = this.dice.between(1, 2);
    for (let n = 0; n < orders; n += 1) {
      const site = this.siteByShare();
      const lines = this.basket(site, weights, month);
      if (lines.length === 0) continue;
      const shipBy = proposedShipBy(act.today, 2);
      const customerId = this.dice.pick(this.business.customers);
      const isAgreed = !(this.dice.roll() < 0.12 && daysBetween(act.today, this.last) < 10);
      const order = await sell(act, { customerId, siteId: site, shipBy, lines }, isAgreed);
      if (!isAgreed) continue;
      this.open.push({ id: order.id, shipBy, siteId: site });
    }
  }

  private siteByShare(): number {
    let left = this.dice.roll();
    return (this.business.sites.find(({ share }) => (left -= share) < 0) ?? this.business.sites[0])?.id as number;
  }

  private basket(
    siteId: number,
    weights: readonly number[],
    month: number,
  ): { itemId: number; quantity: string; price: string; pricePer: string; unitId: null }[] {
    const here = this.business.items.map((item, index) => ({ item, weight: item.bins.has(siteId) ? (weights[index] as number) : 0 }));
    const total = here.reduce((sum, { weight }) => sum + weight, 0);
    const chosen = new Map<number, Stocked>();
    for (let n = this.dice.between(2, 6); n > 0 && total > 0; n -= 1) {
      let left = this.dice.roll() * total;
      const found = here.find(({ weight }) => (left -= weight) < 0);
      if (found) chosen.set(found.item.id, found.item);
    }
    return [...chosen.values()].map((item) => {
      const usual = (item.weekly * (seasons[item.season][month] as number)) / Math.max(1, Math.sqrt(item.weekly) * 0.4);
      return {
        itemId: item.id,
        unitId: null,
        quantity: String(Math.max(1, Math.round(usual * (0.4 + this.dice.roll() * 1.2)))),
        price: String(item.price),
        pricePer: '1',
      };
    });
  }

  /** Picks and sends what is due; the last two days leave their work to whoever opens the demo. */
  private async ship(act: Act): Promise<void> {
    for (const order of [...this.open]) {
      const age = daysBetween(order.shipBy, act.today);
      if (age < 0 || daysBetween(act.today, this.last) < 2) continue;
      const { taken: lines, isShort } = await takeAll(act, order.id);
      const isPosted = lines.length > 0 && daysBetween(act.today, this.last) < byCarrierDays && (await this.carriage.send(act, order.id));
      if (lines.length > 0 && !isPosted)
        await dispatch(act, { orderId: order.id, shipmentId: null, parcelIds: [], lines, way: null, charged: '0', part: false });
      if (isShort && age <= 20) continue;
      if (isShort) await this.close(act, order.id);
      this.open.splice(this.open.indexOf(order), 1);
    }
  }

  private async close(act: Act, id: number): Promise<void> {
    const [order] = await act.tx.db.select({ version: salesOrder.version }).from(salesOrder).where(eq(salesOrder.id, id));
    const picked = (await act.tx.db.$count(salesLine, and(eq(salesLine.orderId, id), positive(salesLine.picked)))) > 0;
    if (order) await endSale(act, id, { decision: picked ? 'close' : 'cancel', version: order.version });
  }

  /** Who bears it: half of it nobody in particular. */
  private async departmentOf(act: Act, itemId: number): Promise<number | null> {
    const rows = await act.tx.db.select({ id: department.id }).from(department).orderBy(department.id);
    return rows[itemId % (2 * rows.length)]?.id ?? null;
  }

  /** A correction each week, and now and then one that was itself wrong and is undone. */
  private async putRight(act: Act): Promise<void> {
    const item = this.dice.pick(this.business.items.filter(({ tracking }) => tracking === 'none'));
    const [siteBin] = [...item.bins];
    const code = this.dice.pick(['miscount', 'damaged', 'lost', 'own-use']);
    const reasonId = await idOf(act, reason, eq(reason.code, code));
    const [siteId, binId] = siteBin ?? [0, 0];
    const [held] = await act.tx.db
      .select({ quantity: balance.quantity, free: itemSite.free })
      .from(balance)
      .innerJoin(itemSite, and(eq(itemSite.itemId, balance.itemId), eq(itemSite.siteId, siteId)))
      .where(and(eq(balance.itemId, item.id), eq(balance.placeId, binId)));
    if (!siteBin || Number(held?.free ?? 0) < 2 || Number(held?.quantity ?? 0) < 2) return;
    const { movementId } = await correct(act, {
      way: 'plus-or-minus',
      reasonId,
      note: '',
      departmentId: await this.departmentOf(act, item.id),
      countedSince: true,
      lines: [{ itemId: item.id, binId: siteBin[1], lotId: null, quantity: '-1', seq: null, sweep: false }],
    });
    if (movementId !== null && this.dice.roll() < 0.15) await reverse(act, { movementId, note: 'it was behind the shelf', countedSince: true });
  }
}
