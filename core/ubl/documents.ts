import { decimal } from '../decimal';
import { amountOf, documentOf, itemOf, partyOf, priceOf, quantityOf, taxTotalOf, type Tree, type UblParty } from './parts';

/** A line of goods or of a charge; a charge is one of nothing in particular. */
export interface UblLine {
  id: string;
  sku: string;
  name: string;
  quantity: string;
  unit: string;
  /** For so many of the unit; undefined for a charge, whose amount says all. */
  price?: { amount: string; per: string } | undefined;
  /** What is taken off quantity times price. */
  discount?: { base: string; amount: string } | undefined;
  amount: string;
  /** Of its tax, per cent; undefined where the document tells none by line. */
  rate?: string | undefined;
  lots?: readonly string[];
  /** Of the order's line that it is for. */
  order?: { number: string; line: string } | undefined;
}

export interface UblInvoice {
  kind: 'invoice' | 'credit';
  number: string;
  issuedOn: string;
  dueOn: string;
  notes: readonly string[];
  currency: string;
  reference: string;
  orders: readonly string[];
  /** Of a credit note: the invoice it takes something off. */
  credits: string | null;
  seller: UblParty;
  customer: UblParty;
  payTo: string;
  net: string;
  tax: string;
  total: string;
  taxes: readonly { rate: string; base: string; tax: string }[];
  lines: readonly UblLine[];
}

const noteOf = (notes: readonly string[]) => notes.filter((note) => note.trim() !== '');

/** An invoice (type 380 of UNCL1001) or a credit note (381). */
export function ublInvoice(one: UblInvoice): Record<string, Tree> {
  const isCredit = one.kind === 'credit';
  const head = isCredit
    ? { 'cbc:CreditNoteTypeCode': '381', 'cbc:Note': noteOf(one.notes) }
    : { 'cbc:DueDate': one.dueOn, 'cbc:InvoiceTypeCode': '380', 'cbc:Note': noteOf(one.notes) };
  const [order] = one.orders;
  return documentOf(isCredit ? 'CreditNote' : 'Invoice', {
    'cbc:ID': one.number,
    'cbc:IssueDate': one.issuedOn,
    ...head,
    'cbc:DocumentCurrencyCode': one.currency,
    'cac:OrderReference':
      order === undefined ? undefined : { 'cbc:ID': one.reference === '' ? order : one.reference, 'cbc:SalesOrderID': one.orders.join(', ') },
    'cac:BillingReference': one.credits === null ? undefined : { 'cac:InvoiceDocumentReference': { 'cbc:ID': one.credits } },
    'cac:AccountingSupplierParty': { 'cac:Party': partyOf(one.seller) },
    'cac:AccountingCustomerParty': { 'cac:Party': partyOf(one.customer) },
    'cac:PaymentTerms': isCredit || one.payTo === '' ? undefined : { 'cbc:Note': one.payTo },
    'cac:TaxTotal': taxTotalOf(one.currency, one.tax, one.taxes),
    'cac:LegalMonetaryTotal': {
      'cbc:LineExtensionAmount': amountOf(one.currency, one.net),
      'cbc:TaxExclusiveAmount': amountOf(one.currency, one.net),
      'cbc:TaxInclusiveAmount': amountOf(one.currency, one.total),
      'cbc:PayableAmount': amountOf(one.currency, one.total),
    },
    [isCredit ? 'cac:CreditNoteLine' : 'cac:InvoiceLine']: one.lines.map((line) =>
      lineOf(line, one.currency, isCredit ? 'cbc:CreditedQuantity' : 'cbc:InvoicedQuantity'),
    ),
  });
}

const allowanceOf = ({ discount }: UblLine, currency: string): Tree | undefined =>
  discount === undefined
    ? undefined
    : {
        'cbc:ChargeIndicator': 'false',
        'cbc:AllowanceChargeReason': 'Discount',
        'cbc:Amount': amountOf(currency, discount.amount),
        'cbc:BaseAmount': amountOf(currency, discount.base),
      };

const lineOf = (line: UblLine, currency: string, quantity: string): Tree => ({
  'cbc:ID': line.id,
  [quantity]: quantityOf(line.quantity, line.unit),
  'cbc:LineExtensionAmount': amountOf(currency, line.amount),
  'cac:OrderLineReference': line.order === undefined ? undefined : { 'cbc:LineID': line.order.line, 'cac:OrderReference': { 'cbc:ID': line.order.number } },
  'cac:AllowanceCharge': allowanceOf(line, currency),
  'cac:Item': itemOf(line),
  'cac:Price': priceOf(currency, line.price?.amount ?? line.amount, line.price?.per ?? '1', line.unit),
});

export interface UblOrder {
  number: string;
  orderedOn: string;
  notes: readonly string[];
  currency: string;
  reference: string;
  seller: UblParty;
  customer: UblParty;
  /** Where it goes, when it is not to the customer's own address. */
  shipTo: readonly string[];
  shipBy: string;
  net: string;
  tax: string;
  total: string;
  lines: readonly UblLine[];
}

/** An order as it was agreed. */
export const ublOrder = (order: UblOrder): Record<string, Tree> =>
  documentOf('Order', {
    'cbc:ID': order.reference === '' ? order.number : order.reference,
    'cbc:SalesOrderID': order.number,
    'cbc:IssueDate': order.orderedOn,
    'cbc:Note': noteOf(order.notes),
    'cbc:DocumentCurrencyCode': order.currency,
    'cac:BuyerCustomerParty': { 'cac:Party': partyOf(order.customer) },
    'cac:SellerSupplierParty': { 'cac:Party': partyOf(order.seller) },
    'cac:Delivery': {
      'cac:DeliveryAddress': order.shipTo.length === 0 ? undefined : { 'cac:AddressLine': order.shipTo.map((line) => ({ 'cbc:Line': line })) },
      'cac:RequestedDeliveryPeriod': { 'cbc:EndDate': order.shipBy },
    },
    'cac:TaxTotal': { 'cbc:TaxAmount': amountOf(order.currency, order.tax) },
    'cac:AnticipatedMonetaryTotal': {
      'cbc:LineExtensionAmount': amountOf(order.currency, order.net),
      'cbc:TaxExclusiveAmount': amountOf(order.currency, order.net),
      'cbc:TaxInclusiveAmount': amountOf(order.currency, order.total),
      'cbc:PayableAmount': amountOf(order.currency, order.total),
    },
    'cac:OrderLine': order.lines.map((line) => ({
      'cac:LineItem': {
        'cbc:ID': line.id,
        'cbc:Quantity': quantityOf(line.quantity, line.unit),
        'cbc:LineExtensionAmount': amountOf(order.currency, line.amount),
        'cac:AllowanceCharge': allowanceOf(line, order.currency),
        'cac:Price': priceOf(order.currency, line.price?.amount ?? line.amount, line.price?.per ?? '1', line.unit),
        'cac:Item': itemOf(line),
      },
    })),
  });

export interface UblDespatch {
  number: string;
  sentOn: string;
  order: string;
  reference: string;
  seller: UblParty;
  customer: UblParty;
  /** Of the carrier's parcels; none where it went without one. */
  tracking: readonly string[];
  lines: readonly (Pick<UblLine, 'id' | 'sku' | 'name' | 'quantity' | 'unit' | 'lots'> & { orderLine: string })[];
}

/** What went out at once, for one order. */
export const ublDespatch = (one: UblDespatch): Record<string, Tree> =>
  documentOf('DespatchAdvice', {
    'cbc:ID': one.number,
    'cbc:IssueDate': one.sentOn,
    'cbc:LineCountNumeric': decimal(one.lines.length).toFixed(),
    'cac:OrderReference': { 'cbc:ID': one.reference === '' ? one.order : one.reference, 'cbc:SalesOrderID': one.order },
    'cac:DespatchSupplierParty': { 'cac:Party': partyOf(one.seller) },
    'cac:DeliveryCustomerParty': { 'cac:Party': partyOf(one.customer) },
    'cac:Shipment': {
      'cbc:ID': one.number,
      'cac:Delivery': { 'cac:Despatch': { 'cbc:ActualDespatchDate': one.sentOn } },
      'cac:TransportHandlingUnit': one.tracking.map((id) => ({ 'cbc:ID': id })),
    },
    'cac:DespatchLine': one.lines.map((line) => ({
      'cbc:ID': line.id,
      'cbc:DeliveredQuantity': quantityOf(line.quantity, line.unit),
      'cac:OrderLineReference': { 'cbc:LineID': line.orderLine, 'cac:OrderReference': { 'cbc:ID': one.order } },
      'cac:Item': itemOf(line),
    })),
  });
