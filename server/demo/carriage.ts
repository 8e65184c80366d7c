import { SalesForm } from '@larder/contract/outbound';
import { eq } from 'drizzle-orm';
import type pg from 'pg';
import type { Act } from '../act';
import { createCarrier } from '../areas/carriers/service';
import { askCarriers, carrierTeller } from '../areas/carriers/teller';
import { dispatch } from '../areas/outbound/dispatch';
import { getPacking, packOrder } from '../areas/outbound/packing';
import { bookShipment } from '../areas/outbound/shipments';
import { createParty } from '../areas/setup/service';
import { salesOrder } from '../db/schema/index';
import { carrierDesk } from '../standins/carrier';
import type { Larkmoor } from './catalog';
import { takeAll } from './picking';
import { sell } from './sell';

/** As many kilograms as are put into one parcel, and as many parcels as are sent by a carrier; what is more goes by the own van. */
const fullAt = 26;
const mostParcels = 6;

interface Waiting {
  orderId: number;
  shipmentId: number;
}

/** What the made-up business sends by carrier: packed, booked, sent and followed, through the same services as people use. */
export class Carriage {
  private herons = 0;
  private booked: Waiting[] = [];
  /** Shipments whose carrier is still to be told how they stand. */
  private untold: number[] = [];

  constructor(
    private readonly business: Larkmoor,
    private readonly pool: pg.Pool,
  ) {}

  async setUp(act: Act): Promise<void> {
    const party = (name: string) => ({ name, isSupplier: true, isCustomer: false, email: '', address: '', leadDays: 1 });
    const heronway = await createParty(act, party('Heronway Parcels'));
    this.herons = (await createCarrier(act, { name: 'Heronway', partyId: heronway.id, connected: true })).id;
    const carter = await createParty(act, party('Cobb the Carter'));
    await createCarrier(act, { name: 'Cobb the Carter', partyId: carter.id, connected: false });
  }

  /** Packs what of an order lies on the bench and books it; answers whether it did. */
  async send(act: Act, orderId: number, books = true): Promise<boolean> {
    const [barn] = this.business.sites;
    const [order] = await act.tx.db.select({ siteId: salesOrder.siteId }).from(salesOrder).where(eq(salesOrder.id, orderId));
    if (!barn || order?.siteId !== barn.id) return false;
    const { loose } = await getPacking(act, orderId);
    // What nobody has weighed no carrier takes.
    if (loose.some(({ weight }) => weight === null)) return false;
    const parcels = inParcels(loose);
    if (parcels.length === 0 || parcels.length > mostParcels) return false;
    const sized = parcels.map((contents) => ({ id: null, weight: null, length: null, width: null, height: null, contents }));
    const packed = await packOrder(act, orderId, { siteId: barn.id, seen: [], parcels: sized });
    if (!books) return true;
    const parcelIds = packed.parcels.map(({ id }) => id);
    const { id } = await bookShipment(act, orderId, { parcelIds, carrierId: this.herons, service: 'Steady', charged: '6.50', typed: [] });
    this.booked.push({ orderId, shipmentId: id });
    this.untold.push(id);
    return true;
  }

  /** Lets the carrier know how shipments stand, as the background does. */
  async tell(now: Date): Promise<void> {
    const teller = carrierTeller(
      this.pool,
      carrierDesk(this.pool, () => now, { answersAll: true }),
      () => now,
    );
    for (const shipmentId of this.untold) await teller({ shipmentId }, { attempts: 1, max_attempts: 1 });
    this.untold = [];
  }

  hasBooked = (): boolean => this.booked.length > 0;

  /** Sends out what the carrier has said yes to. */
  async sendOut(act: Act): Promise<void> {
    for (const { orderId, shipmentId } of this.booked) {
      await dispatch(act, { orderId, shipmentId, parcelIds: [], lines: [], way: null, charged: '0', part: true });
      this.untold.push(shipmentId);
    }
    this.booked = [];
  }

  /** This morning: one order is packed, and one is booked and waits for the driver. */
  async thisMorning(act: Act): Promise<void> {
    const item = (sku: string) => this.business.items.find((one) => one.sku === sku) as Larkmoor['items'][number];
    const order = (customer: number, skus: [string, number][]) =>
      sell(
        act,
        SalesForm.parse({
          customerId: this.business.customers[customer] as number,
          siteId: this.business.sites[0]?.id as number,
          shipBy: act.today,
          lines: skus.map(([sku, quantity]) => ({ itemId: item(sku).id, quantity: String(quantity), price: String(item(sku).price) })),
        }),
        true,
      );
    const packed = await order(18, [
      ['WX-DN', 12],
      ['BX-12', 6],
    ]);
    await takeAll(act, packed.id);
    await this.send(act, packed.id, false);
    const waits = await order(10, [
      ['JAR-227-GLD', 24],
      ['FN-20', 2],
    ]);
    await takeAll(act, waits.id);
    await this.send(act, waits.id);
    this.booked = [];
  }

  /** Where everything is by now, and what the carrier has billed so far. */
  async follow(now: Date): Promise<void> {
    await askCarriers(
      this.pool,
      carrierDesk(this.pool, () => now),
      () => now,
    );
  }
}

type Loose = Awaited<ReturnType<typeof getPacking>>['loose'];

/** Puts goods into parcels one by one, each as full as it may be. */
function inParcels(loose: Loose): { lineId: number; lotId: number | null; quantity: string }[][] {
  const parcels: { weight: number; contents: Map<string, { lineId: number; lotId: number | null; quantity: number }> }[] = [];
  for (const { lineId, lotId, quantity, weight } of loose)
    for (let n = 0; n < Number(quantity); n += 1) {
      const each = Number(weight ?? 1);
      let parcel = parcels.at(-1);
      if (!parcel || (parcel.weight > 0 && parcel.weight + each > fullAt)) {
        parcel = { weight: 0, contents: new Map() };
        parcels.push(parcel);
      }
      parcel.weight += each;
      const key = `${lineId} ${lotId ?? ''}`;
      parcel.contents.set(key, { lineId, lotId, quantity: (parcel.contents.get(key)?.quantity ?? 0) + 1 });
    }
  return parcels.map(({ contents }) => [...contents.values()].map((one) => ({ ...one, quantity: String(one.quantity) })));
}
