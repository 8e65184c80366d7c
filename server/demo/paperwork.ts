import { ItemForm } from '@larder/contract/catalog';
import { ReceiptForm } from '@larder/contract/receiving';
import { addDays } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { eq, gt } from 'drizzle-orm';
import type { Act } from '../act';
import { billable, bills } from '../areas/bills/queries';
import { pay } from '../areas/bills/payments';
import { createBill } from '../areas/bills/service';
import { createItem } from '../areas/catalog/service';
import { waitingEntries } from '../areas/handover/queries';
import { bringInAccounts, handOver, mapAccounts } from '../areas/handover/service';
import { deskLines } from '../areas/inbound/deskLines';
import { receive } from '../areas/inbound/receive';
import { createPurchase, decidePurchase } from '../areas/inbound/service';
import { measureItem } from '../areas/landed/measures';
import { linesOfReceipts, receipts, sheet } from '../areas/landed/queries';
import { createSheet } from '../areas/landed/service';
import { createParty } from '../areas/setup/service';
import type { Larkmoor } from './catalog';
import { dice } from './dice';
import { item, purchaseLine, purchaseOrder, unit } from '../db/schema/index';
import { idOf } from './idOf';

/** What comes in by the container: how many, at what price, and how large one is in centimetres. */
const container: { sku: string; quantity: number; price: string; size: [string, string, string] }[] = [
  { sku: 'TK-50', quantity: 18, price: '64.00', size: ['50', '38', '50'] },
  { sku: 'VEIL-RND', quantity: 240, price: '7.35', size: ['30', '15', '10'] },
  { sku: 'QC-1', quantity: 500, price: '0.62', size: ['10', '6', '5'] },
  { sku: 'STR-DBL', quantity: 36, price: '11.20', size: ['31', '20', '10'] },
];

const plain = { currency: undefined, rate: '1', note: '', knownReference: true, waits: false, sentBack: false };

/** Bills, payments and landed cost of the made-up business, through the same services as people use. */
export class Paperwork {
  private readonly chance = dice(808);
  private forwarder = 0;
  private insurer = 0;

  constructor(private readonly business: Larkmoor) {}

  /** At the start of a month the suppliers' bills of the month before are entered, and what is due is paid. */
  async day(act: Act): Promise<void> {
    if (act.today.slice(8) !== '01') return;
    const { rows } = await bills(act, { show: 'open', limit: 200 });
    for (const bill of rows.filter(({ dueOn }) => dueOn !== null && dueOn <= act.today))
      await pay(act, bill.id, { paidOn: act.today, amount: bill.open, note: '', over: false });
    const suppliers = await act.tx.db
      .selectDistinct({ id: purchaseOrder.supplierId })
      .from(purchaseLine)
      .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
      .where(gt(purchaseLine.received, purchaseLine.billed))
      .orderBy(purchaseOrder.supplierId);
    for (const { id } of suppliers) await this.billOf(act, id);
  }

  private async billOf(act: Act, partyId: number): Promise<void> {
    const { lines } = await billable(act, partyId);
    const goods = lines.flatMap((line) => {
      const open = decimal(line.received).minus(line.billed);
      const dearer = this.chance.roll() < 0.08 ? decimal(line.price).times('1.03').toDecimalPlaces(2).toFixed() : line.price;
      return open.gt(0)
        ? [{ kind: 'goods' as const, purchaseLineId: line.purchaseLineId, quantity: open.toFixed(), price: dearer, taxCodeId: line.taxCodeId }]
        : [];
    });
    if (goods.length === 0) return;
    const reference = `${this.chance.between(10, 99)}-${this.chance.between(1000, 9999)}`;
    await createBill(act, { ...plain, kind: 'bill', partyId, reference, billedOn: act.today, dueOn: addDays(act.today, 30), lines: goods });
  }

  /** This morning: an older freight that came to more than estimated and is cleared, and a container whose charges are still expected. */
  async thisMorning(act: Act): Promise<void> {
    this.forwarder = (await createParty(act, party('Quayline Forwarding'))).id;
    this.insurer = (await createParty(act, party('Tern Mutual Insurance'))).id;
    await this.cleared(act);
    await this.arrived(act);
    await handedOver(act);
  }

  private async cleared(act: Act): Promise<void> {
    const [receipt] = await receipts(act, 'brightwick');
    if (!receipt) return;
    const charges = [
      { name: 'Freight', by: 'quantity' as const, amount: '38.00', currency: undefined, rate: '1', partyId: this.forwarder, leftOut: [], typed: [] },
    ];
    const made = await createSheet(act, { movementIds: [receipt.movementId], note: '', charges });
    const [freight] = (await sheet(act, made.id as number)).charges;
    if (!freight) return;
    const lines = [{ kind: 'charge' as const, chargeId: freight.id, amount: '41.50', final: false, taxCodeId: null }];
    await createBill(act, { ...plain, kind: 'bill', partyId: this.forwarder, reference: 'QF-2231', billedOn: act.today, dueOn: addDays(act.today, 14), lines });
  }

  private async arrived(act: Act): Promise<void> {
    const { id: supplierId } = await createParty(act, party('Isker Hive Works'));
    const siteId = this.business.sites[0]?.id as number;
    const cage = await queenCage(act);
    const idOf = (sku: string) => (sku === 'QC-1' ? cage : (this.business.items.find((item) => item.sku === sku)?.id as number));
    const lines = container.map(({ sku, quantity, price }) => ({ itemId: idOf(sku), unitId: null, quantity: String(quantity), price, pricePer: '1' }));
    for (const { sku, size } of container) await measureItem(act, { itemId: idOf(sku), sizeCm: size });
    const order = await createPurchase(act, {
      supplierId,
      siteId,
      expectedOn: act.today,
      note: 'One container, four kinds',
      shipsToId: null,
      orderedOn: null,
      currency: undefined,
      rate: '1',
      charges: [],
      lines,
    });
    await decidePurchase(act, order.id, { decision: 'place', version: order.version });
    const wanted = (await deskLines(act, siteId)).filter((line) => line.orderId === order.id && line.binId !== null);
    const posted = await receive(
      act,
      ReceiptForm.parse({
        lines: wanted.map((line) => ({ lineId: line.lineId, quantity: line.outstanding, binId: line.binId })),
        packingNote: 'container TLRU 402117',
      }),
    );
    const came = await linesOfReceipts(act, [posted.movementId as number]);
    const tanks = came.flatMap(({ sku, lineId }) => (sku === 'TK-50' ? [lineId] : []));
    const shared = { currency: undefined, rate: '1', typed: [] };
    await createSheet(act, {
      movementIds: [posted.movementId as number],
      note: 'The maker of the tanks insures them',
      charges: [
        { ...shared, name: 'Freight', by: 'volume', amount: '518.40', partyId: this.forwarder, leftOut: [] },
        { ...shared, name: 'Transport insurance', by: 'value', amount: '61.75', partyId: this.insurer, leftOut: tanks },
      ],
    });
  }
}

/** Queen cages are new: they come by the container for the first time. */
async function queenCage(act: Act): Promise<number> {
  const unitId = await idOf(act, unit, eq(unit.code, 'each'));
  const [like] = await act.tx.db.select({ categoryId: item.categoryId, taxCodeId: item.taxCodeId }).from(item).where(eq(item.sku, 'QC-10'));
  const facts = { sku: 'QC-1', name: 'Queen cage', purchasePrice: '0.62', salesPrice: '1.20', unitId, ...like };
  return (await createItem(act, ItemForm.parse(facts))).id;
}

const party = (name: string) => ({ name, isSupplier: true, isCustomer: false, email: '', address: '', leadDays: 7 });

/** Which account of the accounting service each of ours goes to, by its code. */
const theirs: Readonly<Record<string, string>> = {
  '1000': '0110',
  '1100': '0300',
  '1200': '0400',
  '1250': '0410',
  '1310': '0240',
  '1320': '0810',
  '2100': '0810',
  '2110': '0820',
  '2120': '0840',
  '2130': '0830',
  '2200': '0245',
  '2210': '0245',
  '3900': '0900',
  '4000': '3000',
  '4100': '3010',
  '5000': '4000',
  '5100': '4100',
  '5110': '4100',
  '5200': '4200',
  '5210': '4200',
  '5220': '4200',
  '5230': '4400',
  '5240': '4200',
  '5400': '4150',
  '2140': '0835',
  '5300': '4300',
  '5310': '4310',
  '6100': '5100',
};

/** All but the last month has gone to the accounting service; one account nobody has mapped yet. */
async function handedOver(act: Act): Promise<void> {
  const { mapping } = await bringInAccounts(act);
  const rows = mapping.flatMap(({ accountId, code }) => (theirs[code] ? [{ accountId, outsideCode: theirs[code] }] : []));
  await mapAccounts(act, { rows });
  const through = addDays(act.today, -30);
  const some = { through, entryId: null };
  while ((await waitingEntries(act, some, 1)).length > 0) await handOver(act, some);
}
