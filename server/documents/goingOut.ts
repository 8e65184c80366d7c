import type { pick } from '@larder/contract/picking';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, type FieldError } from '@larder/core/refusal';
import { and, eq, lt, ne, or, type SQL } from 'drizzle-orm';
import type { Act } from '../act';
import { among } from '../db/given';
import { lot, person, pickRound, roundOrder } from '../db/schema/index';
import { post, type Posting } from '../ledger/door';
import { noteDoubts } from './doubts';
import { lineFacts, quantityError, refuseErrors, type BinFacts } from './lines';
import type { PickedFor } from './picks';

/** A line of a document that goods go out on. */
export interface LineGoingOut {
  id: number;
  kind: PickedFor['kind'];
  /** Of the order, the transfer, or the work order. */
  ownerId: number;
  number: string;
  itemId: number;
  sku: string;
  siteId: number;
  /** Where what is taken for it waits: the bench of the site it comes from, or its work. */
  waitsAtId: number;
  active: boolean;
  stocked: boolean;
}
/** A document that goods go out on, locked. */
export interface GoingOut {
  number: string;
  lines: ReadonlyMap<number, LineGoingOut>;
}
export type Picked = Omit<BodyOf<typeof pick>, 'orderId'>;

/** Takes goods to the bench, or to the work, for what is locked, whatever kinds of documents it is; asks first where somebody else has some of it in a round. */
export async function takeToBench(act: Act, order: GoingOut, form: Picked): Promise<Posting> {
  const bins = await refuseGoing(
    act,
    'outbound.ship',
    order,
    form.lines,
    form.lines.map(({ binId }) => binId),
  );
  if (!form.othersRound) await refuseOthers(act, order, form.lines);
  refuseBins(order, form.lines, bins);
  await refusePastUse(act, form.lines);
  const lines = form.lines.map((line, index): MovementLine => {
    const at = order.lines.get(line.lineId) as LineGoingOut;
    return {
      itemId: at.itemId,
      lotId: line.lotId,
      quantity: decimal(line.quantity),
      fromPlaceId: line.binId,
      toPlaceId: at.waitsAtId,
      valuation: { by: 'current' },
      serves: [{ kind: at.kind === 'work' ? 'component' : at.kind, lineId: at.id }],
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

/** Asks before somebody picks what another has in a round at the same site. */
async function refuseOthers({ tx: { db }, by }: Act, order: Pick<GoingOut, 'lines'>, lines: readonly { lineId: number }[]): Promise<void> {
  const asked = lines.flatMap(({ lineId }) => order.lines.get(lineId) ?? []);
  const idsOf = (kind: PickedFor['kind']) => [...new Set(asked.flatMap((line) => (line.kind === kind ? [line.ownerId] : [])))];
  const having = (column: typeof roundOrder.orderId | typeof roundOrder.transferId | typeof roundOrder.workOrderId, ids: number[]): SQL | undefined =>
    ids.length === 0 ? undefined : among(column, ids);
  const inRound = or(
    having(roundOrder.orderId, idsOf('sales')),
    having(roundOrder.transferId, idsOf('transfer')),
    having(roundOrder.workOrderId, idsOf('work')),
  );
  if (inRound === undefined) return;
  const [other] = await db
    .select({ id: pickRound.id, picker: person.name, sales: roundOrder.orderId, transfer: roundOrder.transferId, work: roundOrder.workOrderId })
    .from(roundOrder)
    .innerJoin(pickRound, eq(pickRound.id, roundOrder.roundId))
    .innerJoin(person, eq(person.id, pickRound.pickerId))
    .where(
      and(
        inRound,
        among(
          roundOrder.siteId,
          asked.map(({ siteId }) => siteId),
        ),
        roundOrder.open,
        ne(pickRound.pickerId, by.id),
      ),
    )
    .limit(1);
  if (!other) return;
  const theirs = asked.find(({ kind, ownerId }) => ownerId === other[kind]);
  const sentence = `${other.picker} picks ${theirs?.number ?? 'it'} in round ${other.id}. Pick it all the same?`;
  throw new Refusal(409, 'others-round', sentence, [], ['othersRound']);
}

/** Refuses, by their fields, bins that nothing is picked from, or of other sites. */
export function refuseBins(
  order: Pick<GoingOut, 'lines'>,
  lines: readonly { lineId: number; binId: number | null }[],
  bins: ReadonlyMap<number, BinFacts>,
): void {
  refuseErrors(
    lines.flatMap(({ lineId, binId }, index) => {
      const bin = binId === null ? null : bins.get(binId);
      return bin === null || (bin?.sellable && bin.siteId === order.lines.get(lineId)?.siteId)
        ? []
        : [{ field: `lines.${index}.binId`, sentence: 'That is not a bin to pick from at this site.' }];
    }),
  );
}

/** What is past its use-by day is not picked, flagged already or not. */
export async function refusePastUse({ tx, today }: Act, lines: readonly { lotId: number | null }[]): Promise<void> {
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

/** Refuses lines that cannot go, or that go from where the person may not send; answers what is known of the bins. */
export async function refuseGoing(
  act: Act,
  right: 'outbound.ship' | 'stock.transfer',
  order: GoingOut,
  lines: readonly { lineId: number; quantity: string }[],
  binIds: readonly number[],
): Promise<Map<number, BinFacts>> {
  for (const { lineId } of lines) {
    const at = order.lines.get(lineId);
    if (at) act.allow(right, at.siteId);
  }
  const { items, bins } = await lineFacts(
    act,
    [...order.lines.values()].map(({ itemId }) => itemId),
    binIds,
  );
  refuseErrors(
    lines.flatMap((line, index): FieldError[] => {
      const at = order.lines.get(line.lineId);
      if (!at) return [{ field: `lines.${index}.lineId`, sentence: `That line is not on ${order.number}.` }];
      if (!at.stocked && binIds.length > 0)
        return [{ field: `lines.${index}.lineId`, sentence: `${at.sku} is not kept in stock: there is nothing to pick, it goes out with the dispatch.` }];
      if (!at.active) return [{ field: `lines.${index}.lineId`, sentence: `${at.number} is not confirmed, or was closed or cancelled.` }];
      const item = items.get(at.itemId);
      const fault = item && quantityError(item, line.quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
  return bins;
}
