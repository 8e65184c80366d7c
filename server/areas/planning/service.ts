import type * as contract from '@larder/contract/planning';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { WorkForm as createWorkOrderForm } from '@larder/contract/workOrders';
import { addDays, nextWorkday } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { longestLead, priceOf, type PriceBreak } from '@larder/core/inbound/terms';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { lock } from '../../ledger/lock';
import { createPurchase, decidePurchase } from '../inbound/service';
import { createWorkOrder } from '../making/service';
import { writeTransfer } from '../transfers/service';
import { among } from '../../db/given';
import { item, itemSupplier, party, site } from '../../db/schema/index';
import { topUpList } from './topUp';

type Chosen = BodyOf<typeof contract.orderTopUp>['rows'];

/** Turns chosen proposals into purchase orders, one for each supplier and site, expected after the supplier's lead time; what other sites give becomes transfers, and what is made is planned as work. */
export async function orderTopUp(act: Act, { rows, place }: BodyOf<typeof contract.orderTopUp>): Promise<ResponseOf<typeof contract.orderTopUp>> {
  const groups = new Map<string, Chosen>();
  for (const row of rows) groups.set(`${row.supplierId}/${row.siteId}`, [...(groups.get(`${row.supplierId}/${row.siteId}`) ?? []), row]);
  // Before any number is taken, as everybody locks them; who asks for the same at the same time waits, and sees what was ordered.
  await lock.pools(
    act,
    rows.map(({ itemId }) => itemId),
  );
  await refuseToppedUp(act, rows);
  const work: ResponseOf<typeof contract.orderTopUp>['work'] = [];
  for (const [index, row] of rows.entries()) if (row.supplierId === null && row.fromSiteId === null) work.push(await planWork(act, row, index));
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
  return { orders, transfers: await bringAll(act, rows), work };
}

/** Refuses proposals that somebody has acted on since they were made. */
async function refuseToppedUp(act: Act, rows: Chosen): Promise<void> {
  const asked = rows.filter(({ position }) => position !== undefined);
  if (asked.length === 0) return;
  const now = await topUpList(act, { itemIds: asked.map(({ itemId }) => itemId) });
  const errors = rows.flatMap((row, index): FieldError[] => {
    const still = now.find(({ itemId, siteId }) => itemId === row.itemId && siteId === row.siteId);
    if (row.position === undefined || (still && decimal(still.position).lte(row.position))) return [];
    const sentence = still
      ? `This was topped up in the meantime: it stands at ${still.position} now.`
      : 'This was topped up in the meantime; nothing more is proposed.';
    return [{ field: `rows.${index}.quantity`, sentence }];
  });
  if (errors[0]) throw new Refusal(409, 'topped-up', errors[0].sentence, errors);
}

/** Has sites send what others lack: one transfer for each pair of them, to leave at the next workday. */
async function bringAll(act: Act, rows: Chosen): Promise<ResponseOf<typeof contract.orderTopUp>['transfers']> {
  const names = new Map((await act.tx.db.select({ id: site.id, name: site.name }).from(site)).map(({ id, name }) => [id, name]));
  const pairs = new Map<string, { row: Chosen[number]; index: number }[]>();
  for (const [index, row] of rows.entries())
    if (row.supplierId === null && row.fromSiteId !== null)
      pairs.set(`${row.fromSiteId}/${row.siteId}`, [...(pairs.get(`${row.fromSiteId}/${row.siteId}`) ?? []), { row, index }]);
  const made: ResponseOf<typeof contract.orderTopUp>['transfers'] = [];
  for (const some of pairs.values()) {
    const { fromSiteId, siteId } = (some[0] as (typeof some)[number]).row;
    act.allow('planning.top-up', siteId);
    const sendBy = nextWorkday(act.today);
    const head = {
      fromSiteId: fromSiteId ?? 0,
      toSiteId: siteId,
      sendBy,
      expectedOn: nextWorkday(addDays(sendBy, transferDays)),
      carrierId: null,
      tracking: '',
      note: '',
    };
    const lines = some.map(({ row }) => ({ itemId: row.itemId, quantity: row.quantity, fromBinId: null, toBinId: null, salesLineId: null }));
    const sent = await writeTransfer(act, head, lines).catch(
      at(({ field, nth }) => (nth === undefined ? `rows.${some[0]?.index ?? 0}.itemId` : `rows.${some[nth]?.index ?? 0}.${field}`)),
    );
    made.push({ id: sent.id as number, number: sent.number as string, from: names.get(fromSiteId ?? 0) ?? '', to: names.get(siteId) ?? '' });
  }
  return made;
}

/** Days that a transfer takes, until somebody says otherwise. */
const transferDays = 1;

/** What is refused of lines of a document, said at the rows they are of. */
const at =
  (rowOf: (of: { field: string; nth: number | undefined }) => string) =>
  (error: unknown): never => {
    if (!(error instanceof Refusal)) throw error;
    const errors = error.errors.map(({ field, sentence }) => {
      const [, nth, part] = /^lines\.(\d+)\.(\w+)/.exec(field) ?? [];
      return { field: rowOf({ field: (part ?? field) === 'quantity' ? 'quantity' : 'itemId', nth: nth === undefined ? undefined : Number(nth) }), sentence };
    });
    throw new Refusal(error.status, error.type, error.message, errors);
  };

/** How many days work that is planned from here takes, until somebody says otherwise. */
const workDays = 3;

/** Plans to make so many, as its bill says, to be looked over and released. */
async function planWork(act: Act, { itemId, siteId, quantity }: Chosen[number], index: number): Promise<{ id: number; number: string; sku: string }> {
  act.allow('planning.top-up', siteId);
  const form = createWorkOrderForm.parse({ itemId, siteId, quantity, startsOn: act.today, dueOn: addDays(act.today, workDays) });
  const made = await createWorkOrder(act, form).catch(at(({ field }) => `rows.${index}.${field}`));
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
