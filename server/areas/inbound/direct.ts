import type * as contract from '@larder/contract/inbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, quantityText, sum } from '@larder/core/decimal';
import { Refusal, type FieldError } from '@larder/core/refusal';
import type { Act } from '../../act';
import { lockSupplied } from '../../documents/supplies';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { agreedOn } from './agreed';
import { receiptMovement, refuseOver, wantedLines, type WantedLine } from './receive';

/** Records what the supplier of an order delivered straight to its customer: no stock of ours moves, and what it cost is cost of sales. */
export async function recordDirect(act: Act, id: number, form: BodyOf<typeof contract.recordDirect>): Promise<Posting> {
  await lock.purchaseOrders(act, [id]);
  const order = await agreedOn(act, id);
  act.allow('inbound.receive', order.siteId);
  if (order.shipsTo === null) throw new Refusal(409, 'comes-here', `${order.number} comes to ${order.site}: receive it at the receiving desk.`);
  await lockSupplied(
    act,
    form.lines.map(({ lineId }) => lineId),
  );
  const wanted = new Map(
    (
      await wantedLines(
        act,
        form.lines.map(({ lineId }) => lineId),
      )
    ).map((line) => [line.id, line]),
  );
  await refuseLines(act, id, form, wanted);
  refuseMoreThanSold(form, wanted);
  refuseOver(form.lines, wanted);
  const lines = form.lines.map((line) => ({ ...line, binId: wanted.get(line.lineId)?.customerPlaceId as number }));
  return post(act, await receiptMovement(act, { effectiveOn: form.effectiveOn, packingNote: form.note, countedSince: false, lines }, wanted, 'drop-shipment'));
}

/** Of what was ordered for a sales line its customer gets no more than that. */
function refuseMoreThanSold({ lines }: BodyOf<typeof contract.recordDirect>, wanted: ReadonlyMap<number, WantedLine>): void {
  refuseErrors(
    lines.flatMap(({ lineId }, index): FieldError[] => {
      const at = wanted.get(lineId);
      if (!at || at.salesLineId === null) return [];
      const open = decimal(at.supplied ?? 0).minus(at.everCame);
      const all = sum(lines.filter((line) => line.lineId === lineId).map((line) => decimal(line.quantity)));
      return all.lte(open)
        ? []
        : [{ field: `lines.${index}.quantity`, sentence: `The customer ordered only ${quantityText(open)} more of ${at.sku} from us.` }];
    }),
  );
}

async function refuseLines(act: Act, orderId: number, form: BodyOf<typeof contract.recordDirect>, wanted: ReadonlyMap<number, WantedLine>): Promise<void> {
  const { items } = await lineFacts(
    act,
    [...wanted.values()].map(({ itemId }) => itemId),
  );
  refuseErrors(
    form.lines.flatMap((line, index): FieldError[] => {
      const at = wanted.get(line.lineId);
      if (at?.orderId !== orderId) return [{ field: `lines.${index}.lineId`, sentence: 'That line is not on this order.' }];
      if (!at.active) return [{ field: `lines.${index}.lineId`, sentence: `${at.number} is not open: it was not placed, or was closed or cancelled.` }];
      if (form.effectiveOn !== undefined && at.placedOn !== null && form.effectiveOn < at.placedOn)
        return [{ field: 'effectiveOn', sentence: `${at.number} was placed on ${at.placedOn}; nothing can have been delivered on it before.` }];
      const item = items.get(at.itemId);
      const fault = item && quantityError(item, line.quantity, `lines.${index}.quantity`);
      return fault ? [fault] : [];
    }),
  );
}
