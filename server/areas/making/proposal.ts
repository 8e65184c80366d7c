import type * as contract from '@larder/contract/workOrders';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, type Decimal } from '@larder/core/decimal';
import { inSteps, plannedParts } from '@larder/core/making/work';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { bom, bomByProduct, bomCost, bomPart } from '../../db/schema/index';
import { bomsInUse, freeAt, inUseFor, itemsOf } from './inUse';

/** What a bill says that making so many takes. */
export interface Planned {
  bomId: number | null;
  bill: string | null;
  steps: string;
  components: { itemId: number; quantity: Decimal; note: string }[];
  costs: { name: string; per: 'hour' | 'piece'; quantity: Decimal; rate: string; accountId: number }[];
  byProducts: { itemId: number; quantity: Decimal; share: string | null }[];
  /** Of the item itself, against those of what else comes of it. */
  share: string | null;
}

const nothingPlanned: Planned = { bomId: null, bill: null, steps: '', components: [], costs: [], byProducts: [], share: null };

/** What the bill in use says that making so many of an item takes; of an item without one nothing. */
export async function planned(act: Act, itemId: number, quantity: Decimal): Promise<Planned> {
  const { db } = act.tx;
  const [used] = await bomsInUse(act, eq(bom.itemId, itemId));
  if (!used) return nothingPlanned;
  const { bills } = await inUseFor(act, [itemId]);
  const bill = bills.get(itemId);
  if (!bill) return nothingPlanned;
  const [[head], parts, costs, byProducts, items] = [
    await db.select().from(bom).where(eq(bom.id, used.id)),
    await db.select({ itemId: bomPart.itemId, note: bomPart.note }).from(bomPart).where(eq(bomPart.bomId, used.id)),
    await db.select().from(bomCost).where(eq(bomCost.bomId, used.id)).orderBy(bomCost.position),
    await db.select().from(bomByProduct).where(eq(bomByProduct.bomId, used.id)).orderBy(bomByProduct.position),
    await itemsOf(act, [...bill.parts.map((part) => part.itemId), ...bill.byProducts.map((one) => one.itemId)]),
  ];
  const stepOf = (id: number) => decimal(items.get(id)?.step ?? 1);
  const share = (of: Decimal | string) => decimal(of).times(quantity).div(bill.makes);
  return {
    bomId: used.id,
    bill: head ? [head.number, head.name].filter((word) => word !== '').join(' ') : null,
    steps: head?.steps ?? '',
    components: plannedParts(bill, quantity, stepOf).map((part) => ({ ...part, note: parts.find((one) => one.itemId === part.itemId)?.note ?? '' })),
    costs: costs.map(({ name, per, quantity: many, rate, accountId }) => ({ name, per, rate, accountId, quantity: share(many).toDecimalPlaces(4) })),
    byProducts: byProducts.map((one) => ({ itemId: one.itemId, share: one.share, quantity: inSteps(share(one.quantity), stepOf(one.itemId)) })),
    share: head?.share ?? null,
  };
}

/** What a work order is begun with: the parts, costs and other outputs of so many, as the bill in use says. */
export async function workProposal(
  act: Act,
  { itemId, siteId, quantity }: QueryOf<typeof contract.workProposal>,
): Promise<ResponseOf<typeof contract.workProposal>> {
  act.allow('look', siteId);
  const plan = await planned(act, itemId, decimal(quantity));
  const ids = [...plan.components, ...plan.byProducts].map((one) => one.itemId);
  const [items, free] = [await itemsOf(act, ids), await freeAt(act, ids, siteId)];
  const named = (id: number) => {
    const of = items.get(id);
    return { itemId: id, sku: of?.sku ?? '', name: of?.name ?? '', unit: of?.unit ?? '', step: of?.step ?? '1' };
  };
  return {
    bomId: plan.bomId,
    bill: plan.bill,
    steps: plan.steps,
    components: plan.components.map((part) => ({
      ...named(part.itemId),
      quantity: quantityText(part.quantity),
      free: free.get(part.itemId) ?? '0',
      note: part.note,
    })),
    costs: plan.costs.map(({ quantity: many, ...cost }) => ({ ...cost, quantity: quantityText(many) })),
    byProducts: plan.byProducts.map((one) => ({ ...named(one.itemId), quantity: quantityText(one.quantity) })),
  };
}
