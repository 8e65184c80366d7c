import type * as contract from '@larder/contract/picking';
import type { BodyOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { takeToBench, type Picked } from '../../documents/goingOut';
import type { Posting } from '../../ledger/door';
import { refuseOthers } from './claims';
import { goingOrder, type GoingOrder } from './going';

/** Takes goods from bins to the bench for an order. */
export async function pick(act: Act, form: BodyOf<typeof contract.pick>): Promise<Posting> {
  return pickFor(act, [await goingOrder(act, form.orderId)], form);
}

/** The same for several orders in one go; they are locked. */
export async function pickFor(act: Act, orders: readonly GoingOrder[], form: Picked): Promise<Posting> {
  const order = { number: orders.map(({ number }) => number).join(', '), lines: new Map(orders.flatMap(({ lines }) => [...lines])) };
  return takeToBench(act, 'sales', order, form, async () => {
    if (form.othersRound) return;
    await refuseOthers(
      act,
      orders.map(({ id }) => id),
      form.lines.flatMap(({ lineId }) => order.lines.get(lineId)?.siteId ?? []),
    );
  });
}
