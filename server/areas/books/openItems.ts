import type * as contract from '@larder/contract/books';
import type { ResponseOf } from '@larder/contract/endpoint';
import { and, eq, gt, isNotNull, isNull, ne, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import {
  bill,
  invoice,
  item,
  landedCharge,
  landedSheet,
  moneyIn,
  moneyPart,
  party,
  payment,
  purchaseLine,
  purchaseOrder,
  workOrder,
  workProgress,
} from '../../db/schema/index';

type OpenItems = NonNullable<ResponseOf<typeof contract.getAccount>['openItems']>;

/** What makes up the balance of an account that clears something, signed as the balance is; null for an account that clears nothing. */
export async function openItems(tx: Act['tx'], purpose: string | null): Promise<OpenItems | null> {
  if (purpose === 'grni') return linesOpen(tx, gt(purchaseLine.receivedValue, purchaseLine.billedValue));
  if (purpose === 'credits-expected') return linesOpen(tx, gt(purchaseLine.billedValue, purchaseLine.receivedValue));
  if (purpose === 'landed-clearing') return chargesOpen(tx);
  if (purpose === 'payable') return billsOpen(tx);
  if (purpose === 'receivable') return invoicesOpen(tx);
  if (purpose === 'work-in-progress') return workOpen(tx);
  return null;
}

/** Purchase orders of which not as much is billed as came in, or more. */
async function linesOpen({ db }: Act['tx'], which: SQL): Promise<OpenItems> {
  const rows = await db
    .select({
      id: purchaseOrder.id,
      number: purchaseOrder.number,
      text: sql<string>`${party.name} || ': ' || string_agg(${item.sku}, ', ' order by ${purchaseLine.position})`,
      amount: sql<string>`sum(${purchaseLine.billedValue} - ${purchaseLine.receivedValue})`,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .innerJoin(item, eq(item.id, purchaseLine.itemId))
    .where(which)
    .groupBy(purchaseOrder.id, party.name)
    .orderBy(purchaseOrder.id);
  return rows.map(({ id, number, text, amount }) => ({ document: { kind: 'purchase order', id, number }, text, amount }));
}

/** Estimates of landed cost that no bill has cleared yet. */
async function chargesOpen({ db }: Act['tx']): Promise<OpenItems> {
  const rows = await db
    .select({
      id: landedSheet.id,
      number: landedSheet.number,
      text: landedCharge.name,
      amount: sql<string>`${landedCharge.cleared} - ${landedCharge.estimate}`,
    })
    .from(landedCharge)
    .innerJoin(landedSheet, eq(landedSheet.id, landedCharge.sheetId))
    .where(and(isNull(landedCharge.removedAt), isNull(landedCharge.settledAt), ne(landedCharge.estimate, landedCharge.cleared)))
    .orderBy(landedSheet.id, landedCharge.position);
  return rows.map(({ id, number, text, amount }) => ({ document: { kind: 'landed cost', id, number }, text, amount }));
}

/** Bills and credits that were not paid, or not wholly. */
async function billsOpen({ db }: Act['tx']): Promise<OpenItems> {
  const paid = sql`coalesce((${db
    .select({ sum: sql`sum(${payment.settled})` })
    .from(payment)
    .where(and(eq(payment.billId, bill.id), isNull(payment.undoneAt)))}), 0)`;
  const rows = await db
    .select({
      id: bill.id,
      number: bill.number,
      text: sql<string>`${party.name} || ' ' || ${bill.reference}`,
      amount: sql<string>`(${bill.owed} - ${paid}) * case ${bill.kind} when 'credit' then 1 else -1 end`,
    })
    .from(bill)
    .innerJoin(party, eq(party.id, bill.partyId))
    .where(and(isNotNull(bill.postedAt), isNull(bill.undoneAt), sql`${bill.owed} <> ${paid}`))
    .orderBy(bill.id);
  return rows.map(({ id, number, text, amount }) => ({ document: { kind: 'bill', id, number }, text, amount }));
}

/** Work orders in which something is in progress. */
async function workOpen({ db }: Act['tx']): Promise<OpenItems> {
  const rows = await db
    .select({ id: workOrder.id, number: workOrder.number, text: sql<string>`${item.sku} || ' ' || ${item.name}`, amount: workProgress.value })
    .from(workProgress)
    .innerJoin(workOrder, eq(workOrder.id, workProgress.workOrderId))
    .innerJoin(item, eq(item.id, workOrder.itemId))
    .where(ne(workProgress.value, '0'))
    .orderBy(workOrder.id);
  return rows.map(({ id, number, text, amount }) => ({ document: { kind: 'work order', id, number }, text, amount }));
}

const note = alias(invoice, 'note');

/** Invoices that were not paid, or not wholly, or too much. */
async function invoicesOpen({ db }: Act['tx']): Promise<OpenItems> {
  const credited = sql`coalesce((${db
    .select({ sum: sql`sum(${note.owed})` })
    .from(note)
    .where(eq(note.creditsId, invoice.id))}), 0)`;
  const paid = sql`coalesce((${db
    .select({ sum: sql`sum(${moneyPart.settled})` })
    .from(moneyPart)
    .innerJoin(moneyIn, and(eq(moneyIn.id, moneyPart.moneyId), isNull(moneyIn.undoneAt)))
    .where(eq(moneyPart.invoiceId, invoice.id))}), 0)`;
  const amount = sql<string>`(${invoice.owed} - ${credited} - ${paid})`;
  const rows = await db
    .select({ id: invoice.id, number: invoice.number, text: party.name, amount })
    .from(invoice)
    .innerJoin(party, eq(party.id, invoice.partyId))
    .where(and(eq(invoice.kind, 'invoice'), sql`${amount} <> 0`))
    .orderBy(invoice.id);
  return rows.map(({ id, number, text, amount: open }) => ({ document: { kind: 'invoice', id, number }, text, amount: open }));
}
