import { decimal, zero } from '@larder/core/decimal';
import type { LineCounters } from '@larder/core/ledger/types';
import { Refusal, refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/inbound';
import type * as receiving from '@larder/contract/receiving';
import type { BodyOf } from '@larder/contract/endpoint';
import type { WorthLine } from '@larder/contract/values';
import { and, eq, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { incomingLines, refuseIncoming, usedUpPlace } from '../../documents/incoming';
import { refusePastUse } from '../../documents/lots';
import { post, type Posting } from '../../ledger/door';
import { receiptMovement, receive, type ReceiptLines, type WantedLine } from './receive';
import { linesToWrite, placePurchase, writePurchase } from './service';
import { place } from '../../db/schema/index';

type UnorderedForm = BodyOf<typeof receiving.receiveUnordered>;

/**
 * Goods that come in without an order. When a bill is to follow, an order is written, placed and received in one step, so that the bill finds it;
 * otherwise they count as paid. A preview decides the same receipt against the order as it would be written.
 */
export async function receiveUnordered(act: Act, form: UnorderedForm): Promise<Posting> {
  const incoming = await refuseIncoming(act, form.lines, 'inbound.receive');
  if (form.billComes && form.supplierId === null) throw refuseField(422, 'who-bills', 'supplierId', 'Choose the supplier whose bill will come.');
  refusePastUse(act, form.lines, form.pastUseBy);
  const [from] = await act.tx.db
    .select({ id: place.id })
    .from(place)
    .where(and(eq(place.kind, 'supplier'), sql`${place.partyId} is not distinct from ${form.supplierId}`));
  if (!from) throw refuseField(404, 'no-such-supplier', 'supplierId', 'There is no such supplier.');
  if (!form.billComes)
    return post(act, {
      kind: 'receipt',
      effectiveOn: form.effectiveOn ?? act.today,
      lines: await incomingLines(act, incoming, from.id),
      reasonId: null,
      reversesId: null,
      note: form.packingNote === '' ? 'without an order' : `without an order, packing note ${form.packingNote}`,
    });
  if (incoming.siteId === null)
    throw new Refusal(422, 'several-sites', 'Goods of one bill come in at one site; receive those of the other site by themselves.');
  act.allow('inbound.receive', incoming.siteId);
  const order = orderFor(form, incoming.lines, incoming.siteId, act.today);
  if (act.tx.readOnly) {
    const { wanted, lines } = await imaginedLines(act, order, from.id);
    return post(act, await receiptMovement(act, receiptOf(form, lines), wanted), { imagined: countersOf(wanted) });
  }
  const written = await writePurchase(act, order);
  await placePurchase(act, written.id);
  return receive(act, receiptOf(form, written.lines));
}

/** The order that is written for goods that came without one. */
const orderFor = (form: UnorderedForm, lines: readonly WorthLine[], siteId: number, today: string): contract.PurchaseForm => ({
  supplierId: form.supplierId as number,
  siteId,
  expectedOn: form.effectiveOn ?? today,
  orderedOn: form.effectiveOn ?? null,
  currency: undefined,
  rate: '1',
  note: 'Came in without an order',
  shipsToId: null,
  charges: [],
  lines: lines.map(({ itemId, quantity, unitValue }) => ({
    itemId,
    unitId: null,
    quantity,
    price: decimal(unitValue).toFixed(),
    pricePer: '1',
    expectedOn: null,
  })),
});

const receiptOf = (form: UnorderedForm, lines: readonly { id: number }[]): receiving.ReceiptForm & ReceiptLines => ({
  packingNote: form.packingNote,
  effectiveOn: form.effectiveOn,
  pastUseBy: true,
  countedSince: form.countedSince,
  fromDesk: false,
  lines: form.lines.map(({ quantity, binId, lots }, index) => ({
    lineId: lines[index]?.id ?? 0,
    quantity,
    extra: '0',
    binId,
    lots,
    noMore: false,
    toBench: false,
  })),
});

/** The lines of that order as they would be, with ids below zero. */
async function imaginedLines(
  act: Act,
  order: contract.PurchaseForm,
  supplierPlaceId: number,
): Promise<{ wanted: Map<number, WantedLine>; lines: { id: number }[] }> {
  const { lines, money } = await linesToWrite(act, order);
  const usedUpPlaceId = await usedUpPlace(act);
  const wanted = lines.map((line, index): WantedLine => ({
    ...line,
    id: -(index + 1),
    orderId: 0,
    number: 'the order',
    placedOn: null,
    siteId: order.siteId,
    active: true,
    usedUpPlaceId,
    shipsTo: null,
    salesLineId: null,
    supplied: null,
    everCame: '0',
    customerPlaceId: null,
    received: '0',
    receivedValue: '0',
    outstanding: line.baseQuantity,
    rate: money.rate,
    supplierPlaceId,
  }));
  return { wanted: new Map(wanted.map((line) => [line.id, line])), lines: wanted };
}

const countersOf = (wanted: ReadonlyMap<number, WantedLine>): Map<number, LineCounters> =>
  new Map(
    [...wanted.values()].map(({ id, number, position }) => [
      id,
      { label: `${number} line ${position}`, arrived: zero, drawn: zero, gone: zero, finished: zero, open: zero },
    ]),
  );
