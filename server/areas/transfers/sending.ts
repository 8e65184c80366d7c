import type * as contract from '@larder/contract/transfers';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, type Decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { refuseField } from '@larder/core/refusal';
import { beyondLots, type Lots } from '@larder/core/stock/transfers';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { transfer } from '../../db/schema/index';
import { refuseBins, refuseGoing, refusePastUse, takeToBench, type GoingOut, type LineGoingOut } from '../../documents/goingOut';
import { picksOf } from '../../documents/picks';
import { placeOfReason } from '../../documents/reasons';
import { post, type Posting } from '../../ledger/door';
import { goingTransfer } from './going';
import { getTransfer } from './queries';
import { allowEither, refuseCarrier } from './service';

/** What to take from which bin for a transfer. */
export async function transferPickList(act: Act, id: number): Promise<ResponseOf<typeof contract.transferPickList>> {
  const { fromSiteId } = await getTransfer(act, id);
  return picksOf(act, [{ kind: 'transfer', id }], [fromSiteId]);
}

/** Takes goods from bins to the bench for a transfer. */
export const pickTransfer = async (act: Act, id: number, form: BodyOf<typeof contract.pickTransfer>): Promise<Posting> =>
  takeToBench(act, await goingTransfer(act, id), form);

/** Sends goods on their way, from the bench or straight from their bins. */
export async function sendTransfer(act: Act, id: number, form: BodyOf<typeof contract.sendTransfer>): Promise<Posting> {
  const going = await goingTransfer(act, id);
  const { now, benchId, transitId } = going;
  const bins = await refuseGoing(
    act,
    'stock.transfer',
    going,
    form.lines,
    form.lines.flatMap(({ binId }) => binId ?? []),
  );
  refuseBins(going, form.lines, bins);
  await refusePastUse(act, form.lines);
  if (form.expectedOn !== null && form.expectedOn < act.today) throw refuseField(422, 'past-day', 'expectedOn', 'This day has passed already.');
  await refuseCarrier(act.tx.db, form.carrierId);
  refuseBeyond(going, 'lie on the bench', now.onBench, form.lines, ({ binId }) => binId === null);
  const lines = form.lines.map((line, index): MovementLine => ({
    ...movedLine(going, line, index),
    fromPlaceId: line.binId ?? benchId,
    toPlaceId: transitId,
  }));
  const posting = await post(act, { kind: 'transfer', effectiveOn: act.today, lines, reasonId: null, reversesId: null, note: form.tracking });
  const { carrierId, tracking, expectedOn } = form;
  if (!act.tx.readOnly)
    await act.tx.db
      .update(transfer)
      .set({ carrierId, tracking, expectedOn: expectedOn ?? now.expectedOn, version: now.version + 1 })
      .where(eq(transfer.id, id));
  return posting;
}

interface Moved {
  lineId: number;
  lotId: number | null;
  quantity: string;
}

const movedLine = (going: GoingOut, { lineId, lotId, quantity }: Moved, index: number): Omit<MovementLine, 'fromPlaceId' | 'toPlaceId'> => ({
  itemId: (going.lines.get(lineId) as LineGoingOut).itemId,
  lotId,
  quantity: decimal(quantity),
  valuation: { by: 'current' },
  serves: [{ kind: 'transfer', lineId }],
  field: `lines.${index}.quantity`,
});

const counted = <T extends Moved>({ lineId, lotId, quantity }: T): Lots => ({ lineId, lotId, quantity: decimal(quantity) });

/** Refuses, by the field, more of a line and lot than is there for it. */
function refuseBeyond<T extends Moved>(going: GoingOut, there: string, lying: readonly Moved[], asked: readonly T[], concerned: (line: T) => boolean): void {
  const none: Decimal = decimal(0);
  const beyond = beyondLots(
    lying.map(counted),
    asked.map((line) => (concerned(line) ? counted(line) : { ...counted(line), quantity: none })),
  );
  if (!beyond) return;
  const { sku } = going.lines.get(asked[beyond.index]?.lineId ?? 0) as LineGoingOut;
  throw refuseField(409, 'not-there', `lines.${beyond.index}.quantity`, `Only ${quantityText(beyond.left)} of this ${sku} ${there} for ${going.number}.`);
}

/** Takes off what is in transit and will not arrive: it goes to the account of the reason. */
export async function loseTransfer(act: Act, id: number, form: BodyOf<typeof contract.loseTransfer>): Promise<Posting> {
  const going = await goingTransfer(act, id);
  allowEither(act, going.now);
  const placeId = await placeOfReason(act, form.reasonId, ['found-or-lost']);
  const unknown = form.lines.findIndex(({ lineId }) => !going.lines.has(lineId));
  if (unknown >= 0) throw refuseField(404, 'no-such-line', `lines.${unknown}.lineId`, `That line is not on ${going.number}.`);
  refuseBeyond(going, 'are in transit', going.now.underWay, form.lines, () => true);
  const lines = form.lines.map((line, index): MovementLine => ({
    ...movedLine(going, line, index),
    fromPlaceId: going.transitId,
    toPlaceId: placeId,
  }));
  return post(act, { kind: 'correction', effectiveOn: act.today, lines, reasonId: form.reasonId, reversesId: null, note: form.note });
}
