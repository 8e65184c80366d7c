import { eq, sql } from 'drizzle-orm';
import type * as contract from '@larder/contract/outbound';
import type { BodyOf } from '@larder/contract/endpoint';
import { refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { item, party, salesLine, salesOrder, site } from '../../db/schema/index';
import { changeDemand } from '../../ledger/changeDemand';
import { companyCurrency } from '../../ledger/company';
import type { Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { removeLines } from '../../documents/documentLines';
import { writtenLines, type WrittenLine } from '../../documents/lines';
import {
  addOrderLines,
  beginOrder,
  changeOrder,
  recordOrder,
  refuseDecision,
  refuseRetiredSite,
  refuseWhere,
  takeDraft,
  takeOrder,
} from '../../documents/orders';
import { writtenFields } from '../../documents/orderFields';
import { sale } from './queries';

export async function createSale(act: Act, form: contract.SalesForm): Promise<contract.SalesOrder> {
  await refuseHead(act, form);
  const currency = await companyCurrency(act);
  const lines = await writtenLines(act, form.lines, { taxCodeId: null, currency, rate: '1' });
  const order = await beginOrder<typeof salesOrder>(act, 'sales', { ...headColumns(form), currency });
  await writeLines(act, order, form, lines);
  return sale(act, order.id);
}

export async function editSale(act: Act, id: number, form: contract.SalesForm & { version: number }): Promise<contract.SalesOrder> {
  const order = await takeDraft(act, 'sales', id, form.version);
  await refuseHead(act, form);
  const was = await readWritten(act.tx, { id });
  const lines = await writtenLines(act, form.lines, { taxCodeId: null, currency: was[0]?.currency ?? (await companyCurrency(act)), rate: '1' });
  await removeLines(act, 'sales', order.number);
  await changeOrder<typeof salesOrder>(act, 'sales', order, headColumns(form));
  await writeLines(act, order, form, lines);
  await recordOrder(act, 'sales', id, was[0] ?? {}, (await readWritten(act.tx, { id }))[0] ?? {});
  return sale(act, id);
}

/** What an order's own row keeps of what is typed. */
const headColumns = ({ customerId, siteId, shipBy, note }: contract.SalesForm) => ({ customerId, siteId, shipBy, note });

/** Writes the lines of a quote: what they want of the site, and what was agreed for them. */
const writeLines = (
  act: Act,
  { id, number }: { id: number; number: string },
  { siteId, shipBy }: contract.SalesForm,
  lines: readonly WrittenLine[],
): Promise<void> =>
  addOrderLines(
    act,
    'sales',
    { id, number, siteId, bringsToId: null, draws: true, active: false },
    lines.map((line) => ({ ...line, neededOn: shipBy })),
  );

/** An order as it is written, in words: what its history tells. */
const readWritten = prepared(['id'], (db, { id }) =>
  db
    .select({
      customer: party.name,
      site: site.name,
      shipBy: salesOrder.shipBy,
      currency: salesOrder.currency,
      note: salesOrder.note,
      lines: jsonRows(
        writtenFields(salesLine),
        (select) => select.from(salesLine).innerJoin(item, eq(item.id, salesLine.itemId)).where(eq(salesLine.orderId, salesOrder.id)),
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
  if (form.shipBy < act.today) throw refuseField(422, 'past-day', 'shipBy', 'The ship-by day has passed already.');
  act.allow('outbound.sell', form.siteId);
}

/** Confirms a quote: what is free is reserved for it, the rest of each line is short and served as stock comes. */
export async function confirmSale(act: Act, id: number, version: number): Promise<Posting> {
  const order = await takeOrder(act, 'sales', id, version);
  refuseDecision('sales', order, 'decide');
  return decide(act, order, true, 'confirmed', { confirmedAt: act.now.toISOString(), confirmedBy: act.by.id });
}

/**
 * Cancels an order nothing of which is picked, or the rest of one: what it held goes to those who are short. Or takes that back: what is free then is
 * reserved for it again, and the rest is short.
 */
export async function endSale(act: Act, id: number, { decision, version }: BodyOf<typeof contract.endSale>): Promise<Posting> {
  const order = await takeOrder(act, 'sales', id, version);
  refuseDecision('sales', order, decision);
  const now = act.now.toISOString();
  if (decision === 'reopen') {
    await refuseRetiredSite(act, order.siteId);
    return decide(act, order, order.decided, 'opened again', { cancelledAt: null, cancelledBy: null, closedAt: null, closedBy: null });
  }
  return decision === 'cancel'
    ? decide(act, order, false, 'cancelled', { cancelledAt: now, cancelledBy: act.by.id })
    : decide(act, order, false, 'rest cancelled', { closedAt: now, closedBy: act.by.id });
}

async function decide(
  act: Act,
  order: Awaited<ReturnType<typeof takeOrder>>,
  active: boolean,
  word: string,
  decision: Partial<typeof salesOrder.$inferInsert>,
): Promise<Posting> {
  const lines = order.lines.filter(({ stocked }) => stocked);
  await lock.pools(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const effects = await changeDemand(act, { siteId: order.siteId, lines }, active, async () => {
    await changeOrder<typeof salesOrder>(act, 'sales', order, decision);
    await recordOrder(act, 'sales', order.id, {}, { decision: word });
  });
  return { movementId: null, effects };
}
