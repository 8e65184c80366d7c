import { decimal } from '@larder/core/decimal';
import { Refusal, refuseField } from '@larder/core/refusal';
import type * as receiving from '@larder/contract/receiving';
import type { BodyOf } from '@larder/contract/endpoint';
import { needRight, type Act } from '../../act';
import { incomingLines, refuseIncoming } from '../../documents/incoming';
import { refusePastUse } from '../../documents/lots';
import { post, type Posting } from '../../ledger/door';
import { receive } from './receive';
import { placePurchase, writePurchase } from './service';

/**
 * Goods that come in without an order. When a bill is to follow, an order is written, placed and received in one step, so that the bill finds it;
 * otherwise they count as paid.
 */
export async function receiveLoose(act: Act, form: BodyOf<typeof receiving.receiveLoose>): Promise<Posting> {
  const incoming = await refuseIncoming(act, form.lines, 'inbound.receive');
  if (form.billComes && form.supplierId === null) throw refuseField(422, 'who-bills', 'supplierId', 'Choose the supplier whose bill will come.');
  refusePastUse(act, form.lines, form.pastUseBy);
  const [from] = await act.tx.rows<{ id: number }>(`SELECT id FROM place WHERE kind = 'supplier' AND party_id IS NOT DISTINCT FROM $1`, [form.supplierId]);
  if (!from) throw refuseField(404, 'no-such-supplier', 'supplierId', 'There is no such supplier.');
  if (!form.billComes || act.tx.readOnly)
    return post(act, {
      kind: 'receipt',
      effectiveOn: form.effectiveOn ?? act.today,
      lines: await incomingLines(act, form.lines, incoming, from.id),
      reasonId: null,
      reversesId: null,
      note: form.packingNote === '' ? 'without an order' : `without an order, packing note ${form.packingNote}`,
    });
  if (incoming.siteId === null)
    throw new Refusal(422, 'several-sites', 'Goods of one bill come in at one site; receive those of the other site by themselves.');
  needRight(act.by, 'inbound.receive', incoming.siteId);
  const order = await writePurchase(act, {
    supplierId: form.supplierId as number,
    siteId: incoming.siteId,
    expectedOn: form.effectiveOn ?? act.today,
    orderedOn: form.effectiveOn ?? null,
    currency: undefined,
    rate: '1',
    note: 'Came in without an order',
    shipsToId: null,
    charges: [],
    lines: form.lines.map(({ itemId, quantity, unitValue }) => ({ itemId, unitId: null, quantity, price: decimal(unitValue).toFixed(), pricePer: '1' })),
  });
  await placePurchase(act, order.id);
  return receive(act, {
    packingNote: form.packingNote,
    effectiveOn: form.effectiveOn,
    overReceipt: false,
    pastUseBy: true,
    countedSince: form.countedSince,
    fromDesk: false,
    lines: form.lines.map(({ quantity, binId, lots }, index) => ({
      lineId: order.lines[index]?.id ?? 0,
      quantity,
      binId,
      lots,
      noMore: false,
      toBench: false,
    })),
  });
}
