import type * as contract from '@larder/contract/picking';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { and, lt, or } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { lot } from '../../db/schema/index';
import { noteDoubts } from '../../documents/doubts';
import { refuseErrors } from '../../documents/lines';
import { post, type Posting } from '../../ledger/door';
import { refuseOthers } from './claims';
import { goingOrder, refuseGoing, type GoingLine, type GoingOrder } from './going';

/** Takes goods from bins to the bench for an order. */
export async function pick(act: Act, form: BodyOf<typeof contract.pick>): Promise<Posting> {
  return pickFor(act, [await goingOrder(act, form.orderId)], form);
}

/** The same for several orders in one go; they are locked. */
export async function pickFor(act: Act, orders: readonly GoingOrder[], form: Omit<BodyOf<typeof contract.pick>, 'orderId'>): Promise<Posting> {
  const order = { number: orders.map(({ number }) => number).join(', '), lines: new Map(orders.flatMap(({ lines }) => [...lines])) };
  const bins = await refuseGoing(
    act,
    order,
    form.lines,
    form.lines.map(({ binId }) => binId),
  );
  if (!form.othersRound)
    await refuseOthers(
      act,
      orders.map(({ id }) => id),
      form.lines.flatMap(({ lineId }) => order.lines.get(lineId)?.siteId ?? []),
    );
  refuseErrors(
    form.lines.flatMap(({ lineId, binId }, index) => {
      const bin = bins.get(binId);
      return bin?.sellable && bin.siteId === order.lines.get(lineId)?.siteId
        ? []
        : [{ field: `lines.${index}.binId`, sentence: 'That is not a bin to pick from at this site.' }];
    }),
  );
  await refusePastUse(act, form.lines);
  const lines = form.lines.map((line, index): MovementLine => {
    const at = order.lines.get(line.lineId) as GoingLine;
    return {
      itemId: at.itemId,
      lotId: line.lotId,
      quantity: decimal(line.quantity),
      fromPlaceId: line.binId,
      toPlaceId: at.benchId,
      valuation: { by: 'current' },
      serves: [{ kind: 'sales', lineId: at.id }],
      field: `lines.${index}.quantity`,
    };
  });
  const posting = await post(act, { kind: 'pick', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: form.shortReason });
  if (!act.tx.readOnly)
    await noteDoubts(
      act,
      form.short.flatMap(({ lineId, binId }) => {
        const at = order.lines.get(lineId);
        return at ? [{ itemId: at.itemId, placeId: binId }] : [];
      }),
      form.shortReason,
    );
  return posting;
}

/** What is past its use-by day is not picked, flagged already or not. */
async function refusePastUse({ tx, today }: Act, lines: readonly { lotId: number | null }[]): Promise<void> {
  const ids = lines.flatMap(({ lotId }) => (lotId === null ? [] : [lotId]));
  if (ids.length === 0) return;
  const past = await tx.db
    .select({ id: lot.id, code: lot.code, useBy: lot.useBy })
    .from(lot)
    .where(and(among(lot.id, ids), or(lot.pastUse, lt(lot.useBy, today))));
  refuseErrors(
    lines.flatMap(({ lotId }, index) => {
      const gone = past.find(({ id }) => id === lotId);
      return gone ? [{ field: `lines.${index}.lotId`, sentence: `Lot ${gone.code} passed its use-by day on ${gone.useBy}; it is not sold any more.` }] : [];
    }),
  );
}
