import type * as contract from '@larder/contract/returns';
import { decimal, money, sum } from '@larder/core/decimal';
import type { CameBack, Movement, MovementLine } from '@larder/core/ledger/types';
import { comingBack, comingBackFaults, needsBin, whereFault } from '@larder/core/outbound/comingBack';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type { z } from 'zod';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { item, party, place, reason, salesLine, salesOrder, site } from '../../db/schema/index';
import { lineFacts, quantityError, refuseErrors, type BinFacts, type ItemFacts } from '../../documents/lines';
import { linesByLot } from '../../documents/lots';
import { sentOut } from './held';
import { straightOn, toSupplier, type StraightOn } from './straightOn';

export type Form = z.infer<typeof contract.ReturnForm>;
type Line = Form['lines'][number];

interface Facts {
  customer: string;
  customerPlaceId: number;
  items: ReadonlyMap<number, ItemFacts>;
  bins: ReadonlyMap<number, BinFacts>;
  /** Accounts of the reasons that may be given, by the reason. */
  reasons: ReadonlyMap<number, number>;
  /** Items that customers may bring back. */
  returnable: ReadonlySet<number>;
  /** Labels of order lines of this customer, and their items, by line. */
  sold: ReadonlyMap<number, { label: string; itemId: number }>;
}

/** What a return needs to know; refuses a customer or site that is not there, and a site where the person takes nothing back. */
async function factsOf(act: Act, { customerId, siteId, lines }: Form): Promise<Facts> {
  const { db } = act.tx;
  const [found] = await db
    .select({ name: party.name, placeId: place.id })
    .from(party)
    .innerJoin(place, and(eq(place.kind, 'customer'), eq(place.partyId, party.id)))
    .where(and(eq(party.id, customerId), party.isCustomer));
  if (!found) throw refuseField(404, 'no-such-customer', 'customerId', 'There is no such customer.');
  const [at] = await db
    .select({ id: site.id })
    .from(site)
    .where(and(eq(site.id, siteId), isNull(site.retiredAt)));
  if (!at) throw refuseField(404, 'no-such-site', 'siteId', 'There is no such site.');
  act.allow('outbound.return', siteId);
  const itemIds = lines.map((line) => line.itemId);
  const { items, bins } = await lineFacts(
    act,
    itemIds,
    lines.flatMap(({ binId }) => binId ?? []),
  );
  const reasons = await db
    .select({ id: reason.id, accountId: reason.accountId })
    .from(reason)
    .where(and(eq(reason.place, 'customer'), isNull(reason.retiredAt)));
  const returnable = await db
    .select({ id: item.id })
    .from(item)
    .where(and(among(item.id, itemIds), item.returnable));
  const sold = await db
    .select({ id: salesLine.id, number: salesOrder.number, position: salesLine.position, itemId: salesLine.itemId })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .where(
      and(
        among(
          salesLine.id,
          lines.flatMap(({ salesLineId }) => salesLineId ?? []),
        ),
        eq(salesOrder.customerId, customerId),
      ),
    );
  return {
    customer: found.name,
    customerPlaceId: found.placeId,
    items,
    bins,
    reasons: new Map(reasons.map(({ id, accountId }) => [id, accountId])),
    returnable: new Set(returnable.map(({ id }) => id)),
    sold: new Map(sold.map(({ id, number, position, itemId }) => [id, { label: `${number} line ${position}`, itemId }])),
  };
}

/** What is wrong with a line whatever else comes back, by field. */
function lineFaults(act: Act, form: Form, facts: Facts, line: Line, index: number): FieldError[] {
  const refuse = (name: string, sentence: string): FieldError => ({ field: `lines.${index}.${name}`, sentence });
  const known = facts.items.get(line.itemId);
  if (!known) return [refuse('itemId', 'There is no such item.')];
  if (!known.stocked) return [refuse('itemId', `${known.sku} is not kept in stock: nothing of it can come back.`)];
  const where = whereFault(line.condition, facts.bins.get(line.binId ?? 0) ?? null, form.siteId);
  const odd = quantityError(known, line.quantity, `lines.${index}.quantity`);
  return [
    ...(odd ? [odd] : []),
    ...(where === null ? [] : [refuse(needsBin(line.condition) ? 'binId' : 'condition', where)]),
    ...(facts.reasons.has(line.reasonId ?? 0) ? [] : [refuse('reasonId', 'Choose why it comes back.')]),
    ...(line.salesLineId === null ? olderFaults(act, form, known, line, refuse) : soldFaults(facts, known, line, refuse)),
  ];
}

/** Of what was sold before these records: who may take it back, and at what worth. */
function olderFaults(act: Act, { siteId }: Form, { sku }: ItemFacts, line: Line, refuse: (name: string, sentence: string) => FieldError): FieldError[] {
  act.allow('outbound.return-older', siteId);
  if (!needsBin(line.condition)) return [refuse('condition', `${sku} was sold before these records: what is not taken into stock of it is not written down.`)];
  return line.unitValue === null ? [refuse('unitValue', 'Say what one is worth.')] : [];
}

function soldFaults({ sold, customer }: Facts, { sku }: ItemFacts, line: Line, refuse: (name: string, sentence: string) => FieldError): FieldError[] {
  const on = sold.get(line.salesLineId ?? 0);
  return on?.itemId === line.itemId ? [] : [refuse('quantity', `${sku} was not sold to ${customer} on that order.`)];
}

/** What a return is worked out to: its lines as they are kept, and the movement that receives them. */
export interface WorkedReturn {
  customer: string;
  /** The movement, once the return has an id. */
  movement: (returnId: number) => Promise<Movement>;
}

/** Works a return out; refuses, by the field, what cannot come back like this. Its sales orders are locked. */
export async function work(act: Act, form: Form): Promise<WorkedReturn> {
  const facts = await factsOf(act, form);
  refuseErrors(form.lines.flatMap((line, index) => lineFaults(act, form, facts, line, index)));
  if (form.cameOn > act.today) throw refuseField(422, 'future-day', 'cameOn', 'The day lies in the future.');
  const sold = form.lines.flatMap((line, index) => (line.salesLineId === null ? [] : [{ ...line, salesLineId: line.salesLineId, index }]));
  const sent = await sentOut(
    act,
    form.customerId,
    sold.map(({ salesLineId }) => salesLineId),
  );
  const asked = sold.map((line) => ({
    salesLineId: line.salesLineId,
    lotId: line.lotId,
    straight: line.condition === 'supplier',
    quantity: decimal(line.quantity),
    sku: facts.items.get(line.itemId)?.sku ?? '',
    label: facts.sold.get(line.salesLineId)?.label ?? '',
    returnable: facts.returnable.has(line.itemId),
  }));
  const faults = comingBackFaults(sent, asked, form.cameOn).map((fault) => inForm(fault, sold));
  if (faults[0]) throw new Refusal(409, 'not-held', faults[0].sentence, faults);
  return {
    customer: facts.customer,
    movement: async (returnId) => {
      const parts = comingBack(sent, asked, returnId);
      return movementOf(
        act,
        form,
        facts,
        sold.map((line, nth) => ({ ...line, cameBack: parts[nth] ?? [] })),
        await straightOn(act, sold, parts),
      );
    },
  };
}

/** A fault of the lines that were sold, at the field of the form's own line. */
function inForm({ field, sentence }: FieldError, sold: readonly { index: number }[]): FieldError {
  const [list, nth, ...rest] = field.split('.');
  return list === 'lines' ? { field: ['lines', sold[Number(nth)]?.index, ...rest].join('.'), sentence } : { field, sentence };
}

const outsideOf = async ({ tx: { db } }: Act, kind: 'scrap' | 'before-records'): Promise<number> => {
  const [found] = await db.select({ id: place.id }).from(place).where(eq(place.kind, kind));
  if (!found) throw new Error(`there is no place of the kind ${kind}`);
  return found.id;
};

/** A line of the movement for each line of the return, in its order: from the customer to a bin, to scrap or to the supplier, or from before these records. */
async function movementOf(
  act: Act,
  form: Form,
  facts: Facts,
  sold: readonly (Line & { index: number; salesLineId: number; cameBack: CameBack[] })[],
  straight: ReadonlyMap<number, StraightOn>,
): Promise<Movement> {
  const scrapId = await outsideOf(act, 'scrap');
  const back = new Map(
    sold.map(({ index, cameBack, ...line }): [number, MovementLine] => {
      const value = sum(cameBack.map((part) => part.value));
      const back: MovementLine = {
        itemId: line.itemId,
        lotId: line.lotId,
        quantity: decimal(line.quantity),
        fromPlaceId: facts.customerPlaceId,
        toPlaceId: line.binId ?? scrapId,
        valuation: { by: 'stated', value },
        serves: [{ kind: 'sales', lineId: line.salesLineId }],
        cameBack,
        field: `lines.${index}.quantity`,
      };
      const on = straight.get(index);
      if (on) return [index, toSupplier(back, on)];
      return [index, line.condition === 'scrap' ? { ...back, lossAccount: facts.reasons.get(line.reasonId as number) as number } : back];
    }),
  );
  const older = await olderLines(act, form, facts);
  return {
    kind: 'customer-return',
    effectiveOn: form.cameOn,
    lines: form.lines.map((_, index) => (back.get(index) ?? older.get(index)) as MovementLine),
    reasonId: null,
    reversesId: null,
    note: form.note === '' ? form.reference : form.note,
    countedAgreed: form.countedSince,
  };
}

/** Lines of what was sold before these records, at what they are said to be worth; a serial that is known comes in only from where it lies. */
async function olderLines(act: Act, form: Form, { items }: Facts): Promise<Map<number, MovementLine>> {
  const older = form.lines.flatMap((line, index) => (line.salesLineId === null ? [{ ...line, index }] : []));
  if (older.length === 0) return new Map();
  const fromPlaceId = await outsideOf(act, 'before-records');
  const lines = await linesByLot(
    act,
    older.map(({ itemId, lotCode, binId, unitValue, index, ...line }) => {
      const { sku, tracking } = items.get(itemId) as ItemFacts;
      const quantity = decimal(line.quantity);
      return {
        itemId,
        sku,
        tracking,
        lots: lotCode === '' ? [] : [{ code: lotCode, useBy: null, quantity: line.quantity }],
        lotsField: `lines.${index}.lots`,
        line: {
          itemId,
          lotId: null,
          quantity,
          fromPlaceId,
          toPlaceId: binId as number,
          valuation: { by: 'stated' as const, value: money(quantity.times(unitValue ?? 0)) },
          serves: [],
          field: `lines.${index}.quantity`,
        },
      };
    }),
  );
  return new Map(older.map(({ index }, nth) => [index, lines[nth] as MovementLine]));
}
