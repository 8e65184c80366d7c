import { addDays, weekday } from '@larder/core/day';
import { decimal, least } from '@larder/core/decimal';
import type { Condition } from '@larder/core/outbound/comingBack';
import { and, between, eq, gt, isNull, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { creditInvoice } from '../areas/invoices/credit';
import { oneReturn, returns } from '../areas/returns/queries';
import { createReturn } from '../areas/returns/service';
import { item, itemPolicy, party, place, reason, salesOrder, salesTerms, wentOut } from '../db/schema/index';
import { dice } from './dice';

const [wednesday, friday] = [3, 5];
const all = { limit: 200 };

/** What customers of the made-up business bring back, through the same services as people use. */
export class Returning {
  private readonly chance = dice(733);

  constructor(private readonly siteId: number) {}

  /** On some Wednesdays something comes back; on Fridays it is credited. */
  async day(act: Act): Promise<void> {
    if (weekday(act.today) === wednesday && this.chance.roll() < 0.45) await this.comesBack(act, true);
    if (weekday(act.today) === friday) await this.credit(act);
  }

  /** This morning one return lies on the counter, received and not credited, and another is announced. */
  async thisMorning(act: Act): Promise<void> {
    await this.comesBack(act, true);
    await this.comesBack(act, false);
  }

  private async comesBack(act: Act, receive: boolean): Promise<void> {
    const { db } = act.tx;
    const gone = await db
      .select({
        customerId: salesOrder.customerId,
        salesLineId: wentOut.salesLineId,
        itemId: wentOut.itemId,
        lotId: wentOut.lotId,
        held: sql<string>`(${wentOut.quantity} - ${wentOut.back})::text`,
        ownBin: itemPolicy.binId,
      })
      .from(wentOut)
      .innerJoin(salesTerms, eq(salesTerms.id, wentOut.salesLineId))
      .innerJoin(salesOrder, eq(salesOrder.id, salesTerms.orderId))
      .innerJoin(party, eq(party.id, salesOrder.customerId))
      .innerJoin(item, and(eq(item.id, wentOut.itemId), eq(item.kind, 'stocked'), item.returnable))
      .leftJoin(itemPolicy, and(eq(itemPolicy.itemId, item.id), eq(itemPolicy.siteId, this.siteId)))
      .where(and(between(wentOut.day, addDays(act.today, -24), addDays(act.today, -6)), gt(wentOut.quantity, wentOut.back)))
      .orderBy(wentOut.lineId)
      .limit(60);
    if (gone.length === 0) return;
    const of = this.chance.pick(gone);
    const reasons = await db
      .select({ id: reason.id, code: reason.code })
      .from(reason)
      .where(and(eq(reason.place, 'customer'), isNull(reason.retiredAt)))
      .orderBy(reason.id);
    const why = this.chance.pick(reasons);
    const quantity = least(decimal(of.held), decimal(1 + Math.floor(this.chance.roll() * 3))).toFixed();
    await createReturn(act, {
      customerId: of.customerId,
      siteId: this.siteId,
      cameOn: act.today,
      reference: '',
      note: '',
      receive,
      countedSince: true,
      lines: [
        {
          salesLineId: of.salesLineId,
          itemId: of.itemId,
          lotId: of.lotId,
          lotCode: '',
          unitValue: null,
          quantity,
          ...(await this.where(act, why.code, of.ownBin)),
          reasonId: why.id,
          note: '',
        },
      ],
    });
  }

  /** In which condition it comes back, and into which bin: what broke on its way is thrown away, what is faulty is looked at. */
  private async where({ tx: { db } }: Act, why: string, ownBin: number | null): Promise<{ condition: Condition; binId: number | null }> {
    if (why === 'damaged-on-way') return { condition: 'scrap', binId: null };
    const bins = await db
      .select({ id: place.id, sellable: place.sellable, unplaced: place.unplaced })
      .from(place)
      .where(and(eq(place.kind, 'bin'), eq(place.siteId, this.siteId), isNull(place.retiredAt)))
      .orderBy(place.id);
    const quarantine = bins.find(({ sellable }) => !sellable)?.id;
    if (why === 'faulty' && quarantine !== undefined) return { condition: 'quarantine', binId: quarantine };
    return { condition: 'shelf', binId: ownBin ?? bins.find(({ unplaced }) => unplaced)?.id ?? bins[0]?.id ?? null };
  }

  private async credit(act: Act): Promise<void> {
    const { rows } = await returns(act, { ...all, show: 'to credit' });
    for (const { id, number } of rows)
      for (const { invoiceId, lines } of (await oneReturn(act, id)).toCredit)
        await creditInvoice(act, invoiceId, {
          invoicedOn: act.today,
          opening: `For goods that came back, ${number}.`,
          closing: '',
          lines: lines.map(({ lineId, quantity }) => ({ lineId, quantity, amount: null })),
        });
  }
}
