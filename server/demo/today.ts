import type { SalesForm } from '@larder/contract/outbound';
import { ReceiptForm } from '@larder/contract/receiving';
import { addDays } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { priceOf } from '@larder/core/inbound/terms';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import { and, eq, sql } from 'drizzle-orm';
import type { z } from 'zod';
import { positive } from '../db/given';
import type { Act } from '../act';
import { deskLines } from '../areas/inbound/deskLines';
import { recordDirect } from '../areas/inbound/direct';
import { purchase } from '../areas/inbound/queries';
import { receive } from '../areas/inbound/receive';
import { createPurchase, decidePurchase } from '../areas/inbound/service';
import { orderDirect } from '../areas/outbound/direct';
import { dispatch } from '../areas/outbound/dispatch';
import { customerTerms } from '../areas/prices/queries';
import { abroad } from './abroad';
import { between } from './between';
import type { Larkmoor } from './catalog';
import { item as itemTable, itemPolicy, itemSite, party as partyTable } from '../db/schema/index';
import { countThisMorning } from './counting';
import { idOf } from './idOf';
import { lendThisMorning } from './lending';
import { take } from './picking';
import { setPrices } from './prices';
import { sell } from './sell';

/** This morning: orders in every stage, some late, some short, for whoever sits down at the demo. */
export async function thisMorning(act: Act, business: Larkmoor): Promise<void> {
  const barn = business.sites[0]?.id as number;
  const item = (sku: string) => business.items.find((one) => one.sku === sku) as Larkmoor['items'][number];
  const party = (name: string) => idOf(act, partyTable, eq(partyTable.name, name));
  await comingIn(act, { barn, item, party });
  await setPrices(act, (sku) => item(sku).id, party);
  await goingOut(act, { barn, item, party });
  await abroad(act, { siteId: barn, itemId: (sku) => item(sku).id, nearLimit: await party('Oakhanger Club') });
  await between(act, barn, business.sites[1]?.id as number);
  await runLow(act, barn, await party('Windle Garden Centre'));
  await countThisMorning(act, barn);
  await lendThisMorning(act, barn);
}

interface Morning {
  barn: number;
  item: (sku: string) => Larkmoor['items'][number];
  party: (name: string) => Promise<number>;
}

/** Purchase orders: one late and begun, one due, one to come with its carriage, and a draft. */
async function comingIn(act: Act, { barn, item, party }: Morning): Promise<void> {
  const buy = async (supplier: string, expectedOn: string, skus: [string, number][], place = true, carriage: string[] = []) => {
    const order = await createPurchase(act, {
      supplierId: await party(supplier),
      siteId: barn,
      expectedOn,
      note: '',
      shipsToId: null,
      orderedOn: null,
      currency: undefined,
      rate: '1',
      charges: carriage.map((amount) => ({ label: 'Carriage of a pallet', amount, taxCodeId: null })),
      lines: skus.map(([sku, quantity]) => ({ unitId: null, itemId: item(sku).id, quantity: String(quantity), price: String(item(sku).cost), pricePer: '1' })),
    });
    return place ? decidePurchase(act, order.id, { decision: 'place', version: order.version }) : order;
  };
  const hexley = await buy('Hexley Joinery', addDays(act.today, -3), [
    ['HB-NAT-10', 24],
    ['RF-NAT-10', 8],
  ]);
  const first = (await deskLines(act, barn)).find((line) => line.kind === 'purchase' && line.orderId === hexley.id && line.itemId === item('HB-NAT-10').id);
  if (first?.binId) await receive(act, ReceiptForm.parse({ lines: [{ lineId: first.lineId, quantity: '12', binId: first.binId }], packingNote: 'DN 20418' }));
  await buy('Brightwick Glass', act.today, [
    ['JAR-340-GLD', 480],
    ['JAR-454-GLD', 240],
  ]);
  await buy('Ashgrove Metalworks', addDays(act.today, 3), [['SM-STD', 30]], true, ['38.00']);
  await buy(
    'Kestrel Textiles',
    addDays(act.today, 12),
    [
      ['SU-M', 4],
      ['GL-L', 6],
    ],
    false,
  );
}

/** Sales orders: short, waiting on the bench, gone in part, straight from a supplier, confirmed, and quotes. */
async function goingOut(act: Act, { barn, item, party }: Morning): Promise<void> {
  const engraving = await idOf(act, itemTable, eq(itemTable.sku, 'BRAND-IRON'));
  /** At the prices that hold for the customer, with what else was agreed. */
  const sellTo = async (
    customer: string,
    shipBy: string,
    skus: [string, number][],
    part: Partial<z.input<typeof SalesForm>> = {},
    isAgreed = true,
    direct = '0',
  ) => {
    const customerId = await party(customer);
    const ids = skus.map(([sku]) => (sku === 'BRAND-IRON' ? engraving : item(sku).id));
    const { rows } = await customerTerms(act, customerId, { itemIds: ids.join(',') });
    const lines = skus.map(([, quantity], index) => {
      const terms = rows.find(({ itemId }) => itemId === ids[index]);
      return { itemId: ids[index] as number, quantity: String(quantity), price: (terms && priceOf(terms, decimal(quantity))?.toFixed()) ?? '0', direct };
    });
    return sell(act, { customerId, siteId: barn, shipBy, lines, ...part }, isAgreed);
  };
  const free = async (sku: string) => {
    const [here] = await act.tx.db
      .select({ free: itemSite.free })
      .from(itemSite)
      .where(and(eq(itemSite.itemId, item(sku).id), eq(itemSite.siteId, barn)));
    return Math.floor(Number(here?.free ?? 0));
  };
  await sellTo(
    'Copse Lane School',
    act.today,
    [
      ['HB-NAT-10', 4],
      ['SM-STD', (await free('SM-STD')) + 6],
      ['VS-10', 3],
      ['FN-20', 5],
      ['BRAND-IRON', 4],
    ],
    { reference: 'CLS 2281', shipTo: 'Copse Lane School\nThe garden, gate C\nCopse Lane, Larkmoor LM4' },
  );
  const waiting = await sellTo('Marsh End Honey', act.today, [
    ['JAR-454-GLD', 24],
    ['BX-12', 10],
  ]);
  await take(act, waiting.id, 1);
  const part = await sellTo('Vale Beekeepers', addDays(act.today, 1), [
    ['FD-25', 12],
    ['SCR-40', 4],
    ['BKT-15', 6],
  ]);
  await send(act, part.id, (await take(act, part.id, 0.5)).taken);
  await sellTo('Thornfield Apiaries', proposedShipBy(act.today, 2), [
    ['WX-DN', 40],
    ['FR-DN1', 4],
  ]);
  await sellTo(
    'Old Mill Tearoom',
    proposedShipBy(act.today, 2),
    [
      ['JAR-227-GLD', 60],
      ['LB-HON-R', 1],
    ],
    { discount: '2.5', reference: 'Tea 118', validUntil: addDays(act.today, 12) },
    false,
  );
  const sacks = await sellTo('Marsh End Honey', addDays(act.today, 1), [['SUG-25', 40]], { reference: 'one pallet' }, true, '40');
  await sendStraight(act, sacks.lines[0]?.id as number, {
    supplierId: await party('Pennywell Mill'),
    price: String(item('SUG-25').cost),
    of: '40',
    sent: '24',
  });
  await sellTo('Windle Garden Centre', addDays(act.today, 6), [['SUG-25', 12]], {}, true, '12');
  await sellTo('Samphire Kitchen', proposedShipBy(act.today, 4), [['JAR-114-WHT', 48]], {}, false);
}

/** Orders of a supplier what goes straight to the customer of a line, some of which it has sent. */
async function sendStraight(
  act: Act,
  lineId: number,
  { supplierId, price, of, sent }: Record<'price' | 'of' | 'sent', string> & { supplierId: number },
): Promise<void> {
  const { orders } = await orderDirect(act, { lines: [{ lineId, quantity: of, supplierId, price, expectedOn: addDays(act.today, 1) }] });
  const placed = await purchase(act, orders[0]?.id as number);
  await recordDirect(act, placed.id, { note: 'PM 8841', lines: [{ lineId: placed.lines[0]?.id as number, quantity: sent, lots: [] }] });
}

/** Whatever the day, a few things run low: an order takes what stands next above its reorder point down to it. */
async function runLow(act: Act, siteId: number, customerId: number): Promise<void> {
  const above = sql`${itemSite.free} + ${itemSite.onOrder} + ${itemSite.coming} - ${itemSite.short} - ${itemPolicy.reorderPoint}`;
  const near = await act.tx.db
    .select({ itemId: itemPolicy.itemId, price: sql<string>`${itemTable.salesPrice}`, gap: sql<string>`trim_scale(ceil(${above}))` })
    .from(itemPolicy)
    .innerJoin(itemTable, eq(itemTable.id, itemPolicy.itemId))
    .innerJoin(itemSite, and(eq(itemSite.itemId, itemPolicy.itemId), eq(itemSite.siteId, itemPolicy.siteId)))
    .where(and(eq(itemPolicy.siteId, siteId), eq(itemTable.tracking, 'none'), positive(itemSite.free), sql`${above} > 0`))
    .orderBy(sql`(${above}) / ${itemPolicy.orderUpTo}`, itemTable.id)
    .limit(5);
  const lines = near.map(({ itemId, price, gap }) => ({ unitId: null, itemId, quantity: gap, price: decimal(price).toFixed(), pricePer: '1' }));
  await sell(act, { customerId, siteId, shipBy: proposedShipBy(act.today, 3), lines }, true);
}

async function send(act: Act, orderId: number, lines: { lineId: number; quantity: string }[]): Promise<void> {
  if (lines.length > 0) await dispatch(act, { orderId, shipmentId: null, parcelIds: [], lines, way: null, charged: '0', part: false });
}
