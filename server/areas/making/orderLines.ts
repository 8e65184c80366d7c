import { decimal, type Decimal } from '@larder/core/decimal';
import type { Act } from '../../act';
import { among, insertRows, updateRows } from '../../db/given';
import { movementLine, reservation, componentTerms, documentLine, productTerms, workCost } from '../../db/schema/index';
import { addLines } from '../../documents/documentLines';
import type { ItemFacts } from '../../documents/lines';
import type { WorkNowRow } from './orderQueries';

/** What lines of a work order take from it. */
export interface OrderHead {
  id: number;
  number: string;
  siteId: number;
  startsOn: string;
  dueOn: string;
  active: boolean;
}

/** Labour, a machine or work outside, planned for the whole of an order. */
export interface CostLine {
  name: string;
  per: 'hour' | 'piece';
  quantity: string;
  rate: string;
  accountId: number;
}

/** Adds components to an order, after those it has; gives their ids. What is not kept in stock is never reserved. */
export async function addComponents(
  act: Act,
  order: OrderHead,
  components: readonly { itemId: number; quantity: string; note: string; cancelled?: string }[],
  items: ReadonlyMap<number, ItemFacts>,
  had: number,
): Promise<number[]> {
  const ids = await addLines(
    act,
    { kind: 'component', number: order.number, siteId: order.siteId, bringsToId: null, draws: true, active: order.active },
    components.map(({ itemId, quantity, cancelled }, index) => ({
      position: had + index + 1,
      itemId,
      baseQuantity: quantity,
      ...(cancelled === undefined ? {} : { cancelled }),
      stocked: items.get(itemId)?.stocked === true,
      neededOn: order.startsOn,
    })),
  );
  await insertRows(
    act.tx,
    componentTerms,
    components.map(({ note }, index) => ({ id: ids[index] as number, workOrderId: order.id, note })),
  );
  return ids;
}

/** Adds what comes of an order: what it is for, and what else; gives their ids. What is scrapped from the beginning is called off on its line. */
export async function addProducts(
  act: Act,
  order: OrderHead,
  products: readonly { itemId: number; quantity: string; share: string | null; binId?: number | null; scrapped?: string }[],
): Promise<number[]> {
  const ids = await addLines(
    act,
    { kind: 'product', number: order.number, siteId: order.siteId, bringsToId: order.siteId, draws: false, active: order.active },
    products.map(({ itemId, quantity, scrapped }, index) => ({
      ...{ position: index + 1, itemId, baseQuantity: quantity, stocked: true, neededOn: order.dueOn },
      ...(scrapped === undefined ? {} : { cancelled: scrapped }),
    })),
  );
  await act.tx.db.insert(productTerms).values(
    products.map(({ share, binId, scrapped }, index) => ({
      id: ids[index] as number,
      workOrderId: order.id,
      share,
      binId: binId ?? null,
      scrapped: scrapped ?? '0',
    })),
  );
  return ids;
}

export const writeCosts = ({ tx }: Act, workOrderId: number, costs: readonly CostLine[]): Promise<void> =>
  insertRows(
    tx,
    workCost,
    costs.map(({ name, per, quantity, rate, accountId }, index) => ({ workOrderId, position: index + 1, name, per, quantity, rate, accountId })),
  );

/** Takes lines off of which nothing was ever taken; of the others nothing is needed any more. What was reserved for them is free already. */
export async function takeOff({ tx: { db } }: Act, lineIds: readonly number[]): Promise<void> {
  if (lineIds.length === 0) return;
  const moved = await db.selectDistinct({ id: movementLine.demandLineId }).from(movementLine).where(among(movementLine.demandLineId, lineIds));
  const off = lineIds.filter((lineId) => !moved.some(({ id }) => id === lineId));
  await db.delete(reservation).where(among(reservation.lineId, off));
  await db.delete(documentLine).where(among(documentLine.id, off));
}

/** Writes how many of components the order says now; of one it says nothing of, its line keeps what it was, as called off. */
export const writeNeeded = ({ tx }: Act, becomes: readonly { line: WorkNowRow['lines'][number]; needed: Decimal }[], neededOn: string): Promise<void> =>
  updateRows(
    tx,
    documentLine,
    becomes.map(({ line, needed }) => {
      const base = needed.gt(0) ? needed : decimal(line.needed).gt(0) ? decimal(line.needed) : decimal(1);
      return { id: line.id, baseQuantity: base.toFixed(), cancelled: base.minus(needed).toFixed(), neededOn };
    }),
  );
