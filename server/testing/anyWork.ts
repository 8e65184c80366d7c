import type { Asked, Endpoint, ResponseOf } from '@larder/contract/endpoint';
import * as stock from '@larder/contract/stock';
import * as apart from '@larder/contract/takingApart';
import * as work from '@larder/contract/workOrders';
import * as recording from '@larder/contract/workRecords';
import { restWays } from '@larder/contract/workRecords';
import { decimal, sum } from '@larder/core/decimal';
import type { Dice } from '../demo/dice';
import type { Business } from './business';

/** What work goes on with. */
export interface AnyWork {
  /** What is made, of how many of which parts. */
  things: { id: number; serial: boolean; parts: { itemId: number; quantity: number }[] }[];
  /** Labour is charged from there. */
  labour: number;
  orders: number[];
  movements: number[];
  /** So often something was recorded. */
  records: number;
  serials: number;
}
type Attempt = <E extends Endpoint>(endpoint: E, asked: Asked<E>) => Promise<ResponseOf<E> | null>;

/** What may be done in a workshop, one thing after the other as the dice fall; each is asked beforehand, and may be refused in words. */
export function anyWork(business: Business, chance: Dice, world: AnyWork, attempt: Attempt): Record<string, () => Promise<void>> {
  const some = <T>(list: readonly T[]): T | undefined => (list.length === 0 ? undefined : chance.pick(list));
  /** One of the last orders, mostly one that is open. */
  const look = async () => {
    for (let tries = chance.between(1, 4); ; tries -= 1) {
      const id = some(chance.roll() < 0.8 ? world.orders.slice(-4) : world.orders);
      const order = id === undefined ? null : await business.owner.get(work.getWorkOrder, { params: { id } });
      if (!order?.ended || tries === 1) return order;
    }
  };
  /** Takes what the pick list says, or less. */
  const take = async (id: number, share: number) => {
    const { rows } = await business.owner.get(work.workPickList, { params: { id } });
    const lines = rows
      .map(({ lineId, binId, lotId, take: all }) => {
        const least = chance.roll() < share ? Number(all) : 0;
        return { lineId, binId, lotId, quantity: String(chance.between(least, Number(all))) };
      })
      .filter(({ quantity }) => Number(quantity) > 0);
    if (lines.length > 0) did(await attempt(work.pickWorkOrder, { params: { id }, body: { lines } }));
  };
  const did = (posted: { movementId: number | null } | null) => {
    if (posted?.movementId) world.movements.push(posted.movementId);
  };
  const bin = () => business.bins[chance.between(0, 1)] as number;
  const fresh = (many: number) => Array.from({ length: many }, () => ({ code: `W-${(world.serials += 1)}` }));

  return {
    planWork: async () => {
      const thing = chance.pick(world.things);
      const many = chance.between(1, 4);
      const components = thing.parts.map(({ itemId, quantity }) => ({ itemId, quantity: String(quantity * many) }));
      const costs =
        chance.roll() < 0.5 ? [] : [{ name: 'Joiner', per: 'hour' as const, quantity: String(chance.between(1, 3)), rate: '7.77', accountId: world.labour }];
      const head = { itemId: thing.id, siteId: business.siteId, quantity: String(many), startsOn: '2026-03-10', dueOn: '2026-03-12' };
      const made = await attempt(work.createWorkOrder, { body: { ...head, components, costs, release: true } });
      if (made?.id) world.orders.push(made.id);
    },
    takeParts: async () => {
      const order = await look();
      if (order && !order.ended) await take(order.id, 0.7);
    },
    recordWork: async () => {
      const seen = await look();
      if (seen && !seen.ended && Number(seen.atWork) === 0) await take(seen.id, 0.9);
      const order = seen && (await business.owner.get(work.getWorkOrder, { params: { id: seen.id } }));
      const [product] = order?.products ?? [];
      if (!order || !product) return;
      const serial = world.things.find(({ id }) => id === product.itemId)?.serial === true;
      const left = Math.max(0, Number(product.quantity) - Number(product.made) - Number(product.scrapped));
      const good = chance.roll() < 0.6 ? left : chance.between(0, left + 1);
      const scrapped = chance.roll() < 0.2 ? 1 : 0;
      const used = order.lines.flatMap((line) =>
        line.lots.flatMap(({ lotId, quantity }) => {
          const many = chance.roll() < 0.6 ? Number(quantity) : chance.between(0, Number(quantity) + 1);
          return many === 0 ? [] : [{ lineId: line.id, lotId, quantity: String(many) }];
        }),
      );
      const body = {
        version: order.version,
        used,
        made: [{ lineId: product.id, quantity: String(good), scrapped: String(scrapped), binId: bin(), lots: serial ? fresh(good) : [] }],
        charges:
          chance.roll() < 0.5 ? [] : [{ name: 'Joiner', per: 'hour' as const, quantity: String(chance.between(1, 3)), rate: '7.77', accountId: world.labour }],
        rest: chance.pick(restWays),
        untakenReason: chance.roll() < 0.2 ? 'found on the bench' : '',
        ...{ moreThanOrdered: true, otherCost: true, pastUse: true },
      };
      const posted = await attempt(recording.recordWork, { params: { id: order.id }, body });
      did(posted);
      world.records += posted ? 1 : 0;
      if (posted?.restId) world.orders.push(posted.restId);
    },
    bringPartsBack: async () => {
      const order = await look();
      const at = order?.lines.flatMap((line) => line.lots.map(({ lotId, quantity }) => ({ lineId: line.id, lotId, quantity }))) ?? [];
      const one = some(at);
      if (!order || !one) return;
      const quantity = String(chance.between(1, Number(one.quantity)));
      did(await attempt(work.bringBack, { params: { id: order.id }, body: { lines: [{ ...one, quantity, binId: bin() }] } }));
    },
    endWork: async () => {
      const order = await look();
      if (order)
        did(await attempt(order.cancelled ? work.reopenWorkOrder : work.cancelWorkOrder, { params: { id: order.id }, body: { version: order.version } }));
    },
    settleUntaken: async () => {
      const { rows } = await business.owner.get(recording.listUntaken);
      const row = some(rows);
      if (!row) return;
      if (chance.roll() < 0.3) await attempt(recording.giveUpUntaken, { params: { id: row.id }, body: { reason: 'not to be found' } });
      else did(await attempt(recording.recordUntaken, { params: { id: row.id }, body: { lines: [{ binId: bin(), quantity: row.open }] } }));
    },
    takeApart: async () => {
      const thing = some(world.things.filter(({ serial }) => !serial));
      if (!thing) return;
      const { sites } = await business.owner.get(stock.itemStock, { params: { id: thing.id } });
      const lies = some(sites.flatMap(({ bins }) => bins));
      if (!lies) return;
      const many = chance.between(1, 2);
      const parts = thing.parts.map(({ itemId, quantity }) => {
        const planned = quantity * many;
        return { itemId, planned: String(planned), quantity: String(chance.between(planned - 1, planned)), share: null, binId: bin() };
      });
      const shared = chance.roll() < 0.5 ? parts : parts.map((part, index) => ({ ...part, share: String(index + 1) }));
      did(await attempt(apart.takeApart, { body: { itemId: thing.id, binId: lies.binId, quantity: String(many), parts: shared } }));
    },
  };
}

/** How many are in progress over all orders, by what each holds. */
export async function inProgress(business: Business, orders: readonly number[]): Promise<string> {
  const values = await Promise.all(orders.map(async (id) => (await business.owner.get(work.getWorkOrder, { params: { id } })).inProgress));
  return sum(values.map((value) => decimal(value))).toFixed(2);
}
