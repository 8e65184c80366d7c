import type * as contract from '@larder/contract/outbound';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { addDays } from '@larder/core/day';
import type { Factor } from '@larder/core/catalog/units';
import { decimal, quantityFault, quantityFaultSentence, quantityText } from '@larder/core/decimal';
import { parted, partFaults } from '@larder/core/outbound/parting';
import { dayFaults, shipByPassed } from '@larder/core/outbound/shipBy';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { company, item, party, salesLine, salesOrder, site } from '../../db/schema/index';
import { plain } from '../../db/text';
import { removeLines } from '../../documents/documentLines';
import { lineFacts, refuseErrors, writtenLines, type WrittenLine } from '../../documents/lines';
import { lineUnit, writtenFields } from '../../documents/orderFields';
import { moneyOf, type Money } from '../../documents/money';
import { addOrderLines, beginOrder, changeOrder, recordOrder, refuseLineSites, refuseWhere, takeDraft } from '../../documents/orders';
import { askedItem, lineSite, sale } from './queries';

export async function createSale(act: Act, form: contract.SalesForm): Promise<contract.SalesOrder> {
  await refuseHead(act, form);
  const money = await moneyOf(act, form);
  const lines = await writtenLines(act, form.lines, { ...(await termsOf(act, form)), ...money });
  refuseErrors([...straightFaults(form.lines, lines), ...bringFaults(form, lines)]);
  const order = await beginOrder<typeof salesOrder>(act, 'sales', { ...(await headColumns(act, form)), ...money });
  await writeLines(act, order, form, lines);
  return sale(act, order.id);
}

export async function editSale(act: Act, id: number, form: contract.SalesForm & { version: number }): Promise<contract.SalesOrder> {
  const order = await takeDraft(act, 'sales', id, form.version);
  await refuseHead(act, form);
  const was = await readWritten(act.tx, { id });
  const money = await moneyOf(act, form);
  const lines = await writtenLines(act, form.lines, { ...(await termsOf(act, form)), ...money });
  refuseErrors([...straightFaults(form.lines, lines), ...bringFaults(form, lines)]);
  await removeLines(act, 'sales', order.number);
  await changeOrder<typeof salesOrder>(act, 'sales', order, { ...(await headColumns(act, form)), ...money });
  await writeLines(act, order, form, lines);
  await recordOrder(act, 'sales', id, was[0] ?? {}, (await readWritten(act.tx, { id }))[0] ?? {});
  return sale(act, id);
}

/** What an order's own row keeps of what is typed; its prices are offered for as many days as the business says, unless somebody said another. */
async function headColumns({ tx: { db }, today }: Act, form: contract.SalesForm) {
  const { customerId, siteId, shipBy, reference, shipTo, discount, whole, note } = form;
  const [ours] = form.validUntil === null ? await db.select({ quoteDays: company.quoteDays }).from(company) : [];
  const validUntil = form.validUntil ?? addDays(today, ours?.quoteDays ?? 0);
  return { customerId, siteId, shipBy, validUntil, reference, shipTo, discount, whole, note };
}

/** What holds for all lines of a quote: the customer's own tax, if they have one, and what is taken off everything. */
export async function termsOf({ tx: { db } }: Act, { customerId, discount }: Pick<contract.SalesForm, 'customerId' | 'discount'>) {
  const [customer] = await db.select({ taxCodeId: party.salesTaxCodeId }).from(party).where(eq(party.id, customerId));
  return { taxCodeId: customer?.taxCodeId ?? null, discount };
}

/** Writes the lines of a quote: what they want of the site, and what was agreed for them. */
const writeLines = (
  act: Act,
  { id, number }: { id: number; number: string },
  { siteId, shipBy, lines: typed }: contract.SalesForm,
  lines: readonly WrittenLine[],
): Promise<void> =>
  addOrderLines(
    act,
    'sales',
    { id, number, siteId, bringsToId: null, draws: true, active: false },
    lines.map((line, index) => ({
      ...line,
      neededOn: typed[index]?.shipBy ?? shipBy,
      promisedOn: typed[index]?.promisedOn ?? null,
      direct: typed[index]?.direct ?? '0',
      askedItemId: typed[index]?.askedItemId ?? null,
      bring: typed[index]?.bring ?? '0',
      bringFromId: typed[index]?.bringFromId ?? null,
      siteId: typed[index]?.siteId ?? null,
    })),
  );

/** Why no so many of lines can come straight from a supplier, by field. */
export const straightFaults = (typed: readonly { direct: string }[], lines: readonly WrittenLine[], list = 'lines'): FieldError[] =>
  typed.flatMap(({ direct }, index): FieldError[] => {
    const line = lines[index];
    const field = `${list}.${index}.direct`;
    const fault = line && quantityFault(direct, line.step, true);
    if (fault) return [{ field, sentence: quantityFaultSentence(fault, line.step) }];
    if (!line || decimal(direct).lte(line.baseQuantity)) return [];
    return [{ field, sentence: `Only ${quantityText(line.baseQuantity)} are ordered; no more of them can come straight from a supplier.` }];
  });

/** Why no so many of lines can be brought from another site, by field. */
const bringFaults = ({ siteId, lines: typed }: contract.SalesForm, lines: readonly WrittenLine[]): FieldError[] =>
  typed.flatMap((line, index): FieldError[] => {
    const { bring, bringFromId, direct } = line;
    const written = lines[index];
    if (!written || decimal(bring).isZero()) return [];
    const at = (name: string, sentence: string): FieldError[] => [{ field: `lines.${index}.${name}`, sentence }];
    const fault = quantityFault(bring, written.step);
    if (fault) return at('bring', quantityFaultSentence(fault, written.step));
    if (!written.stocked) return at('bring', `${written.sku} is not kept in stock: there is nothing of it to bring.`);
    if (decimal(bring).plus(direct).gt(written.baseQuantity))
      return at('bring', `Only ${quantityText(written.baseQuantity)} are ordered; no more of them can be brought.`);
    if (bringFromId === null) return at('bringFromId', 'Say from which site.');
    return bringFromId === (line.siteId ?? siteId) ? at('bringFromId', 'It comes from that site already.') : [];
  });

/** An order as it is written, in words: what its history tells. */
export const readWritten = prepared(['id'], (db, { id }) =>
  db
    .select({
      customer: party.name,
      site: site.name,
      shipBy: salesOrder.shipBy,
      validUntil: salesOrder.validUntil,
      reference: salesOrder.reference,
      shipTo: salesOrder.shipTo,
      whole: salesOrder.whole,
      discount: plain(salesOrder.discount),
      currency: salesOrder.currency,
      rate: plain(salesOrder.rate),
      note: salesOrder.note,
      lines: jsonRows(
        {
          ...writtenFields(salesLine),
          insteadOf: askedItem.sku,
          discount: plain(salesLine.discount),
          shipBy: salesLine.shipBy,
          promisedOn: salesLine.promisedOn,
          straight: plain(salesLine.direct),
          brought: plain(salesLine.bring),
          from: lineSite.name,
        },
        (select) =>
          select
            .from(salesLine)
            .innerJoin(item, eq(item.id, salesLine.itemId))
            .innerJoin(lineSite, eq(lineSite.id, salesLine.siteId))
            .leftJoin(askedItem, eq(askedItem.id, salesLine.askedItemId))
            .where(eq(salesLine.orderId, salesOrder.id)),
        { orderBy: salesLine.position },
      ),
    })
    .from(salesOrder)
    .innerJoin(party, eq(party.id, salesOrder.customerId))
    .innerJoin(site, eq(site.id, salesOrder.siteId))
    .where(sql`${salesOrder.id} = ${id}`),
);

async function refuseHead(act: Act, form: contract.SalesForm): Promise<void> {
  await refuseWhere(act, { as: 'customer', field: 'customerId', id: form.customerId }, form.siteId);
  if (form.shipBy < act.today) throw refuseField(422, 'past-day', 'shipBy', shipByPassed);
  if (form.validUntil !== null && form.validUntil < act.today) throw refuseField(422, 'past-day', 'validUntil', 'This day has passed already.');
  refuseErrors(dayFaults(form.lines, act.today));
  await refuseAsked(act, form.lines);
  act.allow('outbound.sell', form.siteId);
  await refuseLineSites(act, 'outbound.sell', form.lines);
  await refuseBringing(act, form.lines);
}

/** Refuses, by their fields, sites that are none, or were given up, to bring something from. */
async function refuseBringing({ tx: { db } }: Act, lines: contract.SalesForm['lines']): Promise<void> {
  const ids = lines.flatMap(({ bringFromId }) => bringFromId ?? []);
  if (ids.length === 0) return;
  const known = await db
    .select({ id: site.id })
    .from(site)
    .where(and(among(site.id, ids), isNull(site.retiredAt)));
  refuseErrors(
    lines.flatMap(({ bringFromId }, index) =>
      bringFromId === null || known.some(({ id }) => id === bringFromId) ? [] : [{ field: `lines.${index}.bringFromId`, sentence: 'There is no such site.' }],
    ),
  );
}

/** Refuses, by their fields, lines that are sold in the place of what is no item, or of themselves. */
export async function refuseAsked(act: Act, lines: readonly { itemId: number; askedItemId: number | null }[], list = 'lines'): Promise<void> {
  const { items } = await lineFacts(
    act,
    lines.flatMap(({ askedItemId }) => askedItemId ?? []),
  );
  refuseErrors(
    lines.flatMap(({ itemId, askedItemId }, index): FieldError[] =>
      askedItemId === null || (askedItemId !== itemId && items.has(askedItemId))
        ? []
        : [{ field: `${list}.${index}.askedItemId`, sentence: 'An item is sold in the place of another one.' }],
    ),
  );
}

/** A quote as it would be typed. */
async function typedAs(
  { tx: { db } }: Act,
  id: number,
): Promise<Omit<contract.SalesForm, 'lines'> & Money & { lines: (contract.SalesForm['lines'][number] & { id: number; factor: Factor })[] }> {
  const [head] = await db.select().from(salesOrder).where(eq(salesOrder.id, id));
  if (!head) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  const { customerId, siteId, shipBy, validUntil, reference, shipTo, whole, note, currency, rate } = head;
  const lines = await db
    .select({
      id: salesLine.id,
      itemId: salesLine.itemId,
      unitId: lineUnit.id,
      quantity: plain(salesLine.quantity),
      price: plain(salesLine.price),
      pricePer: plain(salesLine.pricePer),
      discount: plain(salesLine.discount),
      shipBy: salesLine.shipBy,
      siteId: salesLine.siteId,
      promisedOn: salesLine.promisedOn,
      direct: plain(salesLine.direct),
      bring: plain(salesLine.bring),
      bringFromId: salesLine.bringFromId,
      askedItemId: salesLine.askedItemId,
      numerator: salesLine.factorNumerator,
      denominator: salesLine.factorDenominator,
    })
    .from(salesLine)
    .leftJoin(lineUnit, eq(lineUnit.code, salesLine.unit))
    .where(eq(salesLine.orderId, id))
    .orderBy(salesLine.position);
  return {
    customerId,
    siteId,
    shipBy,
    validUntil,
    reference,
    shipTo,
    whole,
    note,
    currency,
    rate: decimal(rate).toFixed(),
    discount: quantityText(head.discount),
    lines: lines.map(({ numerator, denominator, ...line }) => ({ ...line, factor: { numerator, denominator } })),
  };
}

/** Keeps so much of each line on a quote; what is left of them becomes a quote of its own, at the same prices and for the same days. */
export async function splitSale(act: Act, id: number, { version, lines }: BodyOf<typeof contract.splitSale>): Promise<ResponseOf<typeof contract.splitSale>> {
  const order = await takeDraft(act, 'sales', id, version);
  const form = await typedAs(act, id);
  refuseErrors(partFaults(order.number, form.lines, lines));
  const { staying, going } = parted(form.lines, lines);
  if (staying.length === 0) throw refuseField(422, 'nothing-kept', 'lines', 'Keep some of at least one line.');
  if (going.length === 0) throw refuseField(422, 'nothing-parted', 'lines', 'All of it stays: there is nothing for another quote.');
  const terms = { ...(await termsOf(act, form)), currency: form.currency, rate: form.rate };
  const [was] = await readWritten(act.tx, { id });
  const stayed = await writtenLines(act, staying, terms);
  const gone = await writtenLines(act, going, terms);
  await removeLines(act, 'sales', order.number);
  await changeOrder<typeof salesOrder>(act, 'sales', order, {});
  await writeLines(act, order, { ...form, lines: staying }, stayed);
  const rest = await beginOrder<typeof salesOrder>(act, 'sales', { ...(await headColumns(act, form)), currency: form.currency, rate: form.rate });
  await writeLines(act, rest, { ...form, lines: going }, gone);
  await recordOrder(act, 'sales', id, was ?? {}, (await readWritten(act.tx, { id }))[0] ?? {});
  return { order: await sale(act, id), rest };
}
