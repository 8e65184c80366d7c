import type * as contract from '@larder/contract/planning';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { WorkForm as createWorkOrderForm } from '@larder/contract/workOrders';
import { addDays } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { longestLead, priceOf, type PriceBreak } from '@larder/core/inbound/terms';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { lock } from '../../ledger/lock';
import { createPurchase, decidePurchase } from '../inbound/service';
import { createWorkOrder } from '../making/service';
import { among } from '../../db/given';
import { item, itemSupplier, party } from '../../db/schema/index';

type Chosen = BodyOf<typeof contract.orderTopUp>['rows'];

/** Turns chosen proposals into purchase orders, one for each supplier and site, expected after the supplier's lead time; what is made is planned as work. */
export async function orderTopUp(act: Act, { rows, place }: BodyOf<typeof contract.orderTopUp>): Promise<ResponseOf<typeof contract.orderTopUp>> {
  const groups = new Map<string, Chosen>();
  for (const row of rows) groups.set(`${row.supplierId}/${row.siteId}`, [...(groups.get(`${row.supplierId}/${row.siteId}`) ?? []), row]);
  // Placed at once, the pools are locked before any number is taken, as everybody locks them.
  if (place)
    await lock.pools(
      act,
      rows.map(({ itemId }) => itemId),
    );
  const work: ResponseOf<typeof contract.orderTopUp>['work'] = [];
  for (const [index, row] of rows.entries()) if (row.supplierId === null) work.push(await planWork(act, row, index));
  const orders: ResponseOf<typeof contract.orderTopUp>['orders'] = [];
  for (const group of groups.values()) {
    const { supplierId, siteId } = group[0] as Chosen[number];
    if (supplierId === null) continue;
    act.allow('planning.top-up', siteId);
    const prices = await pricesOf(act, supplierId, group);
    const order = await createPurchase(act, {
      supplierId,
      siteId,
      expectedOn: addDays(act.today, prices.leadDays(group)),
      note: '',
      shipsToId: null,
      orderedOn: null,
      currency: undefined,
      rate: '1',
      charges: [],
      lines: group.map((row) => ({ itemId: row.itemId, unitId: null, quantity: row.quantity, price: prices.of(row.itemId, row.quantity), pricePer: '1' })),
    });
    if (place) await decidePurchase(act, order.id, { decision: 'place', version: order.version });
    orders.push({ id: order.id, number: order.number, supplier: order.supplier });
  }
  return { orders, work };
}

/** How many days work that is planned from here takes, until somebody says otherwise. */
const workDays = 3;

/** Plans to make so many, as its bill says, to be looked over and released. */
async function planWork(act: Act, { itemId, siteId, quantity }: Chosen[number], index: number): Promise<{ id: number; number: string; sku: string }> {
  act.allow('planning.top-up', siteId);
  const form = createWorkOrderForm.parse({ itemId, siteId, quantity, startsOn: act.today, dueOn: addDays(act.today, workDays) });
  const made = await createWorkOrder(act, form).catch((error: unknown) => {
    if (!(error instanceof Refusal)) throw error;
    const at = (field: string) => `rows.${index}.${field === 'quantity' ? 'quantity' : 'itemId'}`;
    throw new Refusal(
      error.status,
      error.type,
      error.message,
      error.errors.map(({ field, sentence }) => ({ field: at(field), sentence })),
    );
  });
  const [of] = await act.tx.db.select({ sku: item.sku }).from(item).where(eq(item.id, itemId));
  return { id: made.id as number, number: made.number as string, sku: of?.sku ?? '' };
}

async function pricesOf(
  { tx }: Act,
  supplierId: number,
  group: Chosen,
): Promise<{ leadDays: (rows: Chosen) => number; of: (itemId: number, quantity: string) => string }> {
  const [supplier] = await tx.db
    .select({ leadDays: party.leadDays })
    .from(party)
    .where(and(eq(party.id, supplierId), party.isSupplier));
  if (!supplier) throw refuseField(404, 'no-such-supplier', 'rows', 'There is no such supplier.');
  const rows = await tx.db
    .select({
      itemId: item.id,
      price: sql<string>`trim_scale(coalesce(${itemSupplier.price}, ${item.purchasePrice}, 0))`,
      leadDays: itemSupplier.leadDays,
      breaks: sql<PriceBreak[]>`coalesce(${itemSupplier.breaks}, '[]')`,
    })
    .from(item)
    .leftJoin(itemSupplier, and(eq(itemSupplier.itemId, item.id), eq(itemSupplier.supplierId, supplierId)))
    .where(
      among(
        item.id,
        group.map(({ itemId }) => itemId),
      ),
    );
  const of = (itemId: number, quantity: string) => {
    const terms = rows.find((row) => row.itemId === itemId);
    return (terms && priceOf(terms, decimal(quantity))?.toFixed()) ?? '0';
  };
  const leadDays = (group: Chosen) =>
    longestLead(
      supplier.leadDays,
      group.map(({ itemId }) => rows.find((row) => row.itemId === itemId)?.leadDays ?? null),
    );
  return { leadDays, of };
}
