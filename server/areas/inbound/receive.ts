import type * as receiving from '@larder/contract/receiving';
import { decimal, type Had } from '@larder/core/decimal';
import { receiptValue } from '@larder/core/inbound/amount';
import { beyond } from '@larder/core/inbound/extra';
import { straightToBench } from '@larder/core/ledger/straight';
import type { Movement } from '@larder/core/ledger/types';
import { refuseField, type FieldError } from '@larder/core/refusal';
import type { Tracking } from '@larder/core/stock/lots';
import type { Act } from '../../act';
import { linesByLot, refusePastUse, type ComingIn } from '../../documents/lots';
import { lineFacts, quantityError, refuseErrors } from '../../documents/lines';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { endLines } from './amend';
import { benchesAt, lockWaiting } from './waiting';
import { clearTally } from './tally';

export interface WantedLine {
  id: number;
  orderId: number;
  number: string;
  /** The day it was placed in the world: as it was entered, else the day it was placed here. */
  placedOn: string | null;
  position: number;
  itemId: number;
  sku: string;
  tracking: Tracking;
  siteId: number;
  active: boolean;
  /** Not kept in stock: where it goes to be used at once. */
  kept: boolean;
  usedUpPlaceId: number;
  /** The customer it goes to straight from the supplier, and the place of that customer. */
  shipsTo: string | null;
  customerPlaceId: number | null;
  baseQuantity: string;
  received: string;
  /** What that came in at, in company currency. */
  receivedValue: string;
  outstanding: string;
  amount: string;
  rate: string;
  supplierPlaceId: number;
}

/** Receives goods against open lines into bins. More than ordered is taken only when the person says that it is right. */
export async function receive(act: Act, form: receiving.ReceiptForm): Promise<Posting> {
  const ids = form.lines.map(({ lineId }) => lineId);
  await lock.purchaseOrdersOf(act, ids);
  const wanted = new Map((await wantedLines(act, ids)).map((line) => [line.id, line]));
  await refuseLines(act, form, wanted);
  refuseOver(form.lines, wanted);
  refusePastUse(act, form.lines, form.pastUseBy);
  const posting = await postReceipt(act, form, wanted);
  if (act.tx.readOnly) return posting;
  const ended = form.lines.flatMap(({ lineId, noMore }) => (noMore ? [lineId] : []));
  for (const orderId of new Set(ended.map((lineId) => wanted.get(lineId)?.orderId as number))) await endLines(act, orderId, ended);
  if (form.fromDesk) await clearTally(act, ids);
  return posting;
}

/** Posts what comes in against lines as they are known, and carries on to the bench what the form says. */
async function postReceipt(act: Act, form: receiving.ReceiptForm, wanted: ReadonlyMap<number, WantedLine>): Promise<Posting> {
  const toBench = new Set(form.lines.flatMap((line, index) => (line.toBench ? [index] : [])));
  if (toBench.size === 0) return post(act, await receiptMovement(act, form, wanted));
  const straight = form.lines.filter((_, index) => toBench.has(index)).map(({ lineId }) => wanted.get(lineId) as WantedLine);
  await lockWaiting(
    act,
    straight.map(({ itemId }) => itemId),
  );
  const placeIds = await benchesAt(
    act,
    straight.map(({ siteId }) => siteId),
  );
  return post(act, await receiptMovement(act, form, wanted), { next: [straightToBench(toBench)], placeIds });
}

export const wantedLines = ({ tx }: Act, ids: readonly number[]): Promise<WantedLine[]> =>
  tx.rows<WantedLine>(
    `SELECT l.id, o.id AS "orderId", o.number, coalesce(o.ordered_on, (o.placed_at AT TIME ZONE (SELECT time_zone FROM company))::date)::text AS "placedOn", l.position, l.item_id AS "itemId", i.sku, i.tracking, l.site_id AS "siteId", l.active, l.kept, (SELECT id FROM place WHERE kind = 'used-up') AS "usedUpPlaceId", c.name AS "shipsTo", k.id AS "customerPlaceId", l.base_quantity AS "baseQuantity", l.received, l.received_value AS "receivedValue", l.outstanding, l.amount, l.rate, p.id AS "supplierPlaceId"
     FROM purchase_line l JOIN purchase_order o ON o.id = l.order_id JOIN item i ON i.id = l.item_id JOIN place p ON p.kind = 'supplier' AND p.party_id = o.supplier_id LEFT JOIN party c ON c.id = o.ships_to_id LEFT JOIN place k ON k.kind = 'customer' AND k.party_id = c.id WHERE l.id = ANY($1)`,
    [ids],
  );

async function refuseLines(act: Act, form: receiving.ReceiptForm, wanted: ReadonlyMap<number, WantedLine>): Promise<void> {
  const { items, bins } = await lineFacts(
    act,
    [...wanted.values()].map(({ itemId }) => itemId),
    form.lines.flatMap(({ binId }) => (binId === null ? [] : [binId])),
  );
  const errors = form.lines.flatMap((line, index): FieldError[] => {
    const at = wanted.get(line.lineId);
    const field = (name: string) => `lines.${index}.${name}`;
    if (!at) return [{ field: field('lineId'), sentence: 'There is no such order line.' }];
    act.allow('inbound.receive', at.siteId);
    if (form.effectiveOn !== undefined && at.placedOn !== null && form.effectiveOn < at.placedOn)
      return [{ field: 'effectiveOn', sentence: `${at.number} was placed on ${at.placedOn}; nothing can have come in on it before.` }];
    if (at.shipsTo !== null)
      return [{ field: field('lineId'), sentence: `${at.number} goes straight to ${at.shipsTo}: record on the order what was delivered there.` }];
    if (!at.active) return [{ field: field('lineId'), sentence: `${at.number} is not open: it was not placed, or was closed or cancelled.` }];
    if (at.kept && line.binId === null) return [{ field: field('binId'), sentence: 'Choose the bin it goes to.' }];
    if (at.kept && bins.get(line.binId as number)?.siteId !== at.siteId)
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
  const coming = form.lines.map((line, index): ComingIn => {
    const at = wanted.get(line.lineId) as WantedLine;
    const had = received.get(at.id) ?? { quantity: decimal(at.received), amount: decimal(at.receivedValue) };
    const quantity = decimal(line.quantity);
    const value = receiptValue({ amount: decimal(at.amount), baseQuantity: decimal(at.baseQuantity), rate: decimal(at.rate) }, had, quantity);
    received.set(at.id, { quantity: had.quantity.plus(quantity), amount: had.amount.plus(value) });
    return {
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
        toPlaceId: kind === 'receipt' && !at.kept ? at.usedUpPlaceId : (line.binId as number),
        valuation: { by: 'stated', value },
        serves: [{ kind: 'purchase', lineId: at.id }],
        of: index,
        field: `lines.${index}.quantity`,
      },
    };
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
