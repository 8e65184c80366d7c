import { amountText, currencyPlaces } from '@larder/core/books/currency';
import { lineAmount, pricedLine } from '@larder/core/inbound/amount';
import { decimal, quantityText, zero } from '@larder/core/decimal';
import { dayOf } from '@larder/core/day';
import { Refusal } from '@larder/core/refusal';
import { ublDespatch, ublInvoice, ublOrder, type UblLine } from '@larder/core/ubl/documents';
import type { Tree, UblParty } from '@larder/core/ubl/parts';
import { and, eq, sql } from 'drizzle-orm';
import { XMLBuilder } from 'fast-xml-parser';
import type { Act } from '../../act';
import {
  company,
  item,
  lot,
  movement,
  movementLine,
  parcel,
  party,
  place,
  salesLine,
  salesOrder,
  shipment,
  standingMovement,
  unit,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { letterheadOf } from '../../documents/letterhead';
import { oneInvoice, orderedOf } from '../invoices/queries';
import { sale, seenSale } from '../outbound/queries';

interface File {
  type: string;
  name: string;
  bytes: Uint8Array;
}

const builder = new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true });

/** A document as the text of its file. */
function xmlFile(name: string, tree: Record<string, Tree>): File {
  const text = `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build(tree)}`;
  return { type: 'application/xml', name: `${name}.xml`, bytes: Buffer.from(text, 'utf8') };
}

async function ourselves(act: Act): Promise<UblParty & { payTo: string }> {
  const { name, address, taxNumber, payTo } = await letterheadOf(act);
  return { name, address: address.split('\n'), taxNumber, payTo };
}

/** What a line would come to with nothing taken off, in a currency. */
const grossOf = (currency: string, line: Parameters<typeof pricedLine>[0]): string =>
  amountText(currency, lineAmount(pricedLine({ ...line, discount: '0' }), currencyPlaces(currency) ?? 2));

/** What is taken off a line: quantity times price, less what it comes to; nothing where both are the same. */
function discountOf(currency: string, gross: string, amount: string): UblLine['discount'] {
  const off = decimal(gross).minus(amount);
  return off.gt(zero) ? { base: gross, amount: amountText(currency, off) } : undefined;
}

/** An invoice or credit note as UBL 2.1. */
export async function invoiceUbl(act: Act, id: number): Promise<File> {
  const one = await oneInvoice(act, id);
  const { payTo, ...seller } = await ourselves(act);
  const ordered = await orderedOf(act, one);
  const [name = one.party, ...address] = one.address.split('\n');
  const lines = one.lines.map((line, index): UblLine => {
    const at = ordered.find((row) => row.id === line.salesLineId);
    const quantity = at === undefined || line.quantity === null ? '1' : quantityText(decimal(line.quantity).times(at.quantity).div(at.baseQuantity));
    const isPriced = at !== undefined && line.quantity !== null;
    const gross = isPriced ? grossOf(one.currency, { quantity, price: at.price, pricePer: at.pricePer, discount: '0' }) : line.amount;
    return {
      id: String(index + 1),
      sku: line.sku,
      name: line.text,
      quantity,
      unit: at?.orderedIn ?? 'each',
      price: isPriced ? { amount: at.price, per: at.pricePer } : undefined,
      discount: isPriced ? discountOf(one.currency, gross, line.amount) : undefined,
      amount: line.amount,
      rate: line.taxRate,
      lots: line.lots,
      order: at ? { number: at.order, line: String(at.position) } : undefined,
    };
  });
  const tree = ublInvoice({
    kind: one.kind,
    number: one.number,
    issuedOn: one.invoicedOn,
    dueOn: one.dueOn,
    notes: [one.opening, one.closing],
    currency: one.currency,
    reference: one.reference,
    orders: one.orderRefs.map(({ number }) => number),
    credits: one.credits?.number ?? null,
    seller,
    customer: { name, address },
    payTo,
    net: one.net,
    tax: one.tax,
    total: one.total,
    taxes: one.taxes,
    lines,
  });
  return xmlFile(one.number, tree);
}

async function customerOf({ tx: { db } }: Act, id: number): Promise<UblParty> {
  const [row] = await db.select({ name: party.name, address: party.address }).from(party).where(eq(party.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such customer.');
  return { name: row.name, address: row.address.split('\n').filter((line) => line.trim() !== row.name) };
}

/** A confirmed order as UBL 2.1. */
export async function orderUbl(act: Act, id: number): Promise<File> {
  const order = seenSale(act, await sale(act, id));
  if (order.confirmedAt === null) throw new Refusal(409, 'not-confirmed', `${order.number} is a quote; confirm it before it is exported as an order.`);
  const { payTo: _payTo, ...seller } = await ourselves(act);
  const [books] = await act.tx.db.select({ timeZone: company.timeZone }).from(company);
  const lines = order.lines
    .filter((line) => decimal(line.baseQuantity).gt(zero))
    .map((line): UblLine => {
      const gross = grossOf(order.currency, line);
      return {
        id: String(line.position),
        sku: line.sku,
        name: line.name,
        quantity: line.quantity,
        unit: line.unit,
        price: { amount: line.price, per: line.pricePer },
        discount: discountOf(order.currency, gross, line.amount),
        amount: line.amount,
      };
    });
  const tree = ublOrder({
    number: order.number,
    orderedOn: dayOf(new Date(order.confirmedAt), books?.timeZone ?? 'UTC'),
    notes: [order.note],
    currency: order.currency,
    reference: order.reference,
    seller,
    customer: await customerOf(act, order.customerId),
    shipTo: order.shipTo === '' ? [] : order.shipTo.split('\n'),
    shipBy: order.shipBy,
    net: order.amount,
    tax: order.tax,
    total: amountText(order.currency, decimal(order.amount).plus(order.tax)),
    lines,
  });
  return xmlFile(order.number, tree);
}

/** A dispatch as a UBL 2.1 despatch advice: what went to one customer with one movement. */
export async function despatchUbl(act: Act, movementId: number): Promise<File> {
  const { db } = act.tx;
  const rows = await db
    .select({
      id: movementLine.id,
      orderId: salesOrder.id,
      order: salesOrder.number,
      reference: salesOrder.reference,
      customerId: salesOrder.customerId,
      siteId: salesLine.siteId,
      position: salesLine.position,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      quantity: plain(movementLine.quantity),
      lot: lot.code,
      day: movement.effectiveOn,
      number: sql<string>`coalesce(${shipment.number}, ${salesOrder.number} || '-' || ${movement.id})`,
      shipmentId: shipment.id,
    })
    .from(movementLine)
    .innerJoin(standingMovement, eq(standingMovement.id, movementLine.movementId))
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .innerJoin(place, and(eq(place.id, movementLine.toPlaceId), eq(place.kind, 'customer')))
    .innerJoin(salesLine, eq(salesLine.id, movementLine.demandLineId))
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(item, eq(item.id, movementLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(lot, eq(lot.id, movementLine.lotId))
    .leftJoin(shipment, eq(shipment.movementId, movement.id))
    .where(eq(movementLine.movementId, movementId))
    .orderBy(movementLine.id);
  const [first] = rows;
  if (!first) throw new Refusal(404, 'not-found', 'There is no such dispatch, or it was undone.');
  for (const siteId of new Set(rows.map((row) => row.siteId))) act.allow('look', siteId);
  const parcels = first.shipmentId === null ? [] : await db.select({ tracking: parcel.tracking }).from(parcel).where(eq(parcel.shipmentId, first.shipmentId));
  const { payTo: _payTo, ...seller } = await ourselves(act);
  const mine = rows.filter(({ orderId }) => orderId === first.orderId);
  const tree = ublDespatch({
    number: first.number,
    sentOn: first.day,
    order: first.order,
    reference: first.reference,
    seller,
    customer: await customerOf(act, first.customerId),
    tracking: parcels.map(({ tracking }) => tracking).filter((one) => one !== ''),
    lines: mine.map((row, index) => ({
      id: String(index + 1),
      sku: row.sku,
      name: row.name,
      quantity: row.quantity,
      unit: row.unit,
      ...(row.lot === null ? {} : { lots: [row.lot] }),
      orderLine: String(row.position),
    })),
  });
  return xmlFile(first.number, tree);
}
