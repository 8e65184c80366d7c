import type * as receiving from '@larder/contract/receiving';
import { decimal, type Had } from '@larder/core/decimal';
import { receiptValue } from '@larder/core/inbound/amount';
import { beyond } from '@larder/core/inbound/extra';
import { crossDock } from '@larder/core/ledger/crossDock';
import type { Movement } from '@larder/core/ledger/types';
import { refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { linesByLot, refusePastUse, type ComingIn } from '../../documents/lots';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { everCame } from '../../documents/supplies';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { arrivingLines, type Arriving } from '../transfers/service';
import { endLines } from './amend';
import { benchesAt, lockWaiting } from './waiting';
import { clearTally } from './tally';
import { among } from '../../db/given';
import { company, documentLine, item, party, place, purchaseLine, purchaseOrder, supply } from '../../db/schema/index';

/** Receives goods against open lines into bins. More than ordered is taken only when the person says that it is right. */
export async function receive(act: Act, form: receiving.ReceiptForm): Promise<Posting> {
  const ids = form.lines.map(({ lineId }) => lineId);
  await lock.purchaseOrdersOf(act, ids);
  const wanted = new Map((await wantedLines(act, ids)).map((line) => [line.id, line]));
  const fromSites = await arrivingOf(act, form);
  await refuseLines(act, form, wanted, fromSites);
  refuseOver(
    form.lines.filter(({ lineId }) => wanted.has(lineId)),
    wanted,
  );
  refusePastUse(act, form.lines, form.pastUseBy);
  const posting = await postReceipt(act, form, wanted, fromSites);
  if (act.tx.readOnly) return posting;
  const ended = form.lines.flatMap(({ lineId, noMore }) => (noMore && wanted.has(lineId) ? [lineId] : []));
  for (const orderId of new Set(ended.map((lineId) => wanted.get(lineId)?.orderId as number))) await endLines(act, orderId, ended);
  if (form.fromDesk) await clearTally(act, ids);
  return posting;
}

/** Posts what comes in against lines as they are known, and carries on to the bench what the form says. */
async function postReceipt(act: Act, form: receiving.ReceiptForm, wanted: ReadonlyMap<number, WantedLine>, arriving: readonly Arriving[]): Promise<Posting> {
  const toBench = new Set(form.lines.flatMap((line, index) => (line.toBench ? [index] : [])));
  const straight = await goingTo(
    act,
    form.lines.filter((_, index) => toBench.has(index)).map(({ lineId }) => lineId),
  );
  await lockWaiting(
    act,
    straight.map(({ itemId }) => itemId),
    arriving.map(({ lineId }) => lineId),
  );
  const movement = await receiptMovement(act, form, wanted);
  const arrived = await arrivingLines(act, arriving);
  const isArrival = movement.lines.length === 0;
  const all: Movement = { ...movement, kind: isArrival ? 'arrival' : movement.kind, lines: [...movement.lines, ...arrived] };
  if (toBench.size === 0) return post(act, all);
  const placeIds = await benchesAt(
    act,
    straight.map(({ siteId }) => siteId),
  );
  return post(act, all, { next: [crossDock(toBench)], placeIds });
}

/** The items of lines, and the sites they go to. */
const goingTo = async ({ tx: { db } }: Act, lineIds: readonly number[]) =>
  lineIds.length === 0
    ? []
    : db
        .select({ itemId: documentLine.itemId, siteId: sql<number>`coalesce(${documentLine.bringsToId}, ${documentLine.siteId})` })
        .from(documentLine)
        .where(among(documentLine.id, lineIds));

/** Which lines of the form are of transfers. */
async function arrivingOf({ tx: { db } }: Act, { lines }: receiving.ReceiptForm): Promise<Arriving[]> {
  const ids = lines.map(({ lineId }) => lineId);
  const found = await db
    .select({ id: documentLine.id })
    .from(documentLine)
    .where(and(among(documentLine.id, ids), eq(documentLine.kind, 'transfer')));
  return lines.flatMap(({ lineId, quantity, binId, lots }, at) => (found.some(({ id }) => id === lineId) ? [{ at, lineId, quantity, binId, lots }] : []));
}

const usedUp = alias(place, 'used_up');
const customerPlace = alias(place, 'customer_place');
/** The day an order was placed in the world: as it was entered, else the day it was placed here. */
const placedOn = sql<string | null>`coalesce(${purchaseOrder.orderedOn}, (${purchaseOrder.placedAt} at time zone ${company.timeZone})::date)`;

/** What receiving needs to know of purchase lines. */
export const wantedLines = async ({ tx: { db } }: Act, ids: readonly number[]) =>
  db
    .select({
      id: purchaseLine.id,
      orderId: purchaseOrder.id,
      number: purchaseOrder.number,
      placedOn,
      position: purchaseLine.position,
      itemId: purchaseLine.itemId,
      sku: item.sku,
      tracking: item.tracking,
      siteId: purchaseLine.siteId,
      active: purchaseLine.active,
      /** Not kept in stock, it goes to be used at once. */
      stocked: purchaseLine.stocked,
      usedUpPlaceId: usedUp.id,
      /** The customer it goes to straight from the supplier, and the place of that customer. */
      shipsTo: party.name,
      customerPlaceId: customerPlace.id,
      baseQuantity: purchaseLine.baseQuantity,
      received: purchaseLine.received,
      /** What that came in at, in company currency. */
      receivedValue: purchaseLine.receivedValue,
      outstanding: purchaseLine.outstanding,
      amount: purchaseLine.amount,
      rate: purchaseLine.rate,
      supplierPlaceId: place.id,
      /** The sales line whose customer it goes straight to, and how many of it. */
      salesLineId: supply.salesLineId,
      supplied: supply.quantity,
      /** What came on it once, also what went back since. */
      everCame: sql<string>`${everCame(purchaseLine.id, purchaseLine.received)}::text`,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(item, eq(item.id, purchaseLine.itemId))
    .innerJoin(place, and(eq(place.kind, 'supplier'), eq(place.partyId, purchaseOrder.supplierId)))
    .innerJoin(usedUp, eq(usedUp.kind, 'used-up'))
    .innerJoin(company, sql`true`)
    .leftJoin(supply, eq(supply.purchaseLineId, purchaseLine.id))
    .leftJoin(party, eq(party.id, purchaseOrder.shipsToId))
    .leftJoin(customerPlace, and(eq(customerPlace.kind, 'customer'), eq(customerPlace.partyId, party.id)))
    .where(among(purchaseLine.id, ids));
export type WantedLine = Awaited<ReturnType<typeof wantedLines>>[number];

async function refuseLines(act: Act, form: receiving.ReceiptForm, wanted: ReadonlyMap<number, WantedLine>, arriving: readonly Arriving[]): Promise<void> {
  const { items, bins } = await lineFacts(
    act,
    [...wanted.values()].map(({ itemId }) => itemId),
    form.lines.flatMap(({ binId }) => (binId === null ? [] : [binId])),
  );
  const errors = form.lines.flatMap((line, index): FieldError[] => {
    const at = wanted.get(line.lineId);
    const field = (name: string) => `lines.${index}.${name}`;
    if (!at) return arriving.some((one) => one.at === index) ? [] : [{ field: field('lineId'), sentence: 'There is no such order line.' }];
    act.allow('inbound.receive', at.siteId);
    if (form.effectiveOn !== undefined && at.placedOn !== null && form.effectiveOn < at.placedOn)
      return [{ field: 'effectiveOn', sentence: `${at.number} was placed on ${at.placedOn}; nothing can have come in on it before.` }];
    if (at.shipsTo !== null)
      return [{ field: field('lineId'), sentence: `${at.number} goes straight to ${at.shipsTo}: record on the order what was delivered there.` }];
    if (!at.active) return [{ field: field('lineId'), sentence: `${at.number} is not open: it was not placed, or was closed or cancelled.` }];
    if (at.stocked && line.binId === null) return [{ field: field('binId'), sentence: 'Choose the bin it goes to.' }];
    if (at.stocked && bins.get(line.binId as number)?.siteId !== at.siteId)
      return [{ field: field('binId'), sentence: 'That bin is not at the site this order is delivered to.' }];
    const item = items.get(at.itemId);
    const fault = item && quantityError(item, line.quantity, field('quantity'));
    return fault ? [fault] : [];
  });
  refuseErrors(errors);
}

/** What a receipt needs of a form: what came, of which lines, and when. */
export type ReceiptLines = Pick<receiving.ReceiptForm, 'effectiveOn' | 'packingNote' | 'countedSince'> & {
  lines: readonly Pick<receiving.ReceiptForm['lines'][number], 'lineId' | 'quantity' | 'binId' | 'lots'>[];
};

/** More than is still to come is asked about, but for as many as the person has agreed to. */
export function refuseOver(lines: readonly { lineId: number; quantity: string; extra?: string }[], wanted: ReadonlyMap<number, WantedLine>): void {
  const found = beyond(lines, (lineId) => decimal(wanted.get(lineId)?.outstanding ?? 0));
  if (!found) return;
  const { number, outstanding, sku } = wanted.get(lines[found.index]?.lineId ?? 0) as WantedLine;
  const sentence = `${number} wants only ${decimal(outstanding).toFixed()} more of ${sku}, not ${found.total.toFixed()}. Take them all the same?`;
  throw refuseField(409, 'over-receipt', `lines.${found.index}.quantity`, sentence, ['over-receipt']);
}

/** Goods coming from the supplier into bins, or to the place `binId` names, at what the order says they cost. */
export async function receiptMovement(
  act: Act,
  form: ReceiptLines,
  wanted: ReadonlyMap<number, WantedLine>,
  kind: 'receipt' | 'drop-shipment' = 'receipt',
): Promise<Movement> {
  const received = new Map<number, Had>();
  const coming = form.lines.flatMap((line, index): ComingIn[] => {
    const at = wanted.get(line.lineId);
    if (!at) return [];
    const had = received.get(at.id) ?? { quantity: decimal(at.received), amount: decimal(at.receivedValue) };
    const quantity = decimal(line.quantity);
    const value = receiptValue({ amount: decimal(at.amount), baseQuantity: decimal(at.baseQuantity), rate: decimal(at.rate) }, had, quantity);
    received.set(at.id, { quantity: had.quantity.plus(quantity), amount: had.amount.plus(value) });
    return [
      {
        itemId: at.itemId,
        sku: at.sku,
        tracking: at.tracking,
        lots: line.lots,
        lotsField: `lines.${index}.lots`,
        line: {
          itemId: at.itemId,
          lotId: null,
          quantity,
          fromPlaceId: at.supplierPlaceId,
          toPlaceId: kind === 'receipt' && !at.stocked ? at.usedUpPlaceId : (line.binId as number),
          valuation: { by: 'stated', value },
          serves: [{ kind: 'purchase', lineId: at.id }, ...(at.salesLineId === null ? [] : [{ kind: 'sales' as const, lineId: at.salesLineId }])],
          of: index,
          field: `lines.${index}.quantity`,
        },
      },
    ];
  });
  return {
    kind,
    effectiveOn: form.effectiveOn ?? act.today,
    lines: await linesByLot(act, coming),
    reasonId: null,
    reversesId: null,
    note: form.packingNote === '' ? '' : `packing note ${form.packingNote}`,
    countedAgreed: form.countedSince,
  };
}
