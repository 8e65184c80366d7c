import { describe, expect, test } from '@jest/globals';
import { ublDespatch, ublInvoice, ublOrder, type UblInvoice } from './documents';
import type { Tree } from './parts';

/** Elements in the order that the schemas of UBL 2.1 give them, as far as they are used here. */
const published: Readonly<Record<string, readonly string[]>> = {
  Invoice:
    'UBLVersionID ID IssueDate DueDate InvoiceTypeCode Note DocumentCurrencyCode OrderReference BillingReference AccountingSupplierParty AccountingCustomerParty PaymentTerms TaxTotal LegalMonetaryTotal InvoiceLine'.split(
      ' ',
    ),
  CreditNote:
    'UBLVersionID ID IssueDate CreditNoteTypeCode Note DocumentCurrencyCode OrderReference BillingReference AccountingSupplierParty AccountingCustomerParty PaymentTerms TaxTotal LegalMonetaryTotal CreditNoteLine'.split(
      ' ',
    ),
  Order:
    'UBLVersionID ID SalesOrderID IssueDate Note DocumentCurrencyCode BuyerCustomerParty SellerSupplierParty Delivery TaxTotal AnticipatedMonetaryTotal OrderLine'.split(
      ' ',
    ),
  DespatchAdvice: 'UBLVersionID ID IssueDate LineCountNumeric OrderReference DespatchSupplierParty DeliveryCustomerParty Shipment DespatchLine'.split(' '),
  InvoiceLine: 'ID InvoicedQuantity LineExtensionAmount OrderLineReference AllowanceCharge Item Price'.split(' '),
  CreditNoteLine: 'ID CreditedQuantity LineExtensionAmount OrderLineReference AllowanceCharge Item Price'.split(' '),
  LineItem: 'ID Quantity LineExtensionAmount AllowanceCharge Price Item'.split(' '),
  DespatchLine: 'ID DeliveredQuantity OrderLineReference Item'.split(' '),
  Item: 'Name SellersItemIdentification ClassifiedTaxCategory ItemInstance'.split(' '),
  AllowanceCharge: 'ChargeIndicator AllowanceChargeReason Amount BaseAmount'.split(' '),
  Party: 'PartyName PostalAddress PartyTaxScheme PartyLegalEntity'.split(' '),
  PartyTaxScheme: 'CompanyID TaxScheme'.split(' '),
  TaxSubtotal: 'TaxableAmount TaxAmount TaxCategory'.split(' '),
  ClassifiedTaxCategory: 'ID Percent TaxScheme'.split(' '),
  TaxCategory: 'ID Percent TaxScheme'.split(' '),
  LegalMonetaryTotal: 'LineExtensionAmount TaxExclusiveAmount TaxInclusiveAmount PayableAmount'.split(' '),
  Delivery: 'DeliveryAddress RequestedDeliveryPeriod Despatch'.split(' '),
  Shipment: 'ID Delivery TransportHandlingUnit'.split(' '),
};

/** Every element whose children are not in their published order, or not among them. */
function misplaced(tree: Tree, name: string): string[] {
  if (typeof tree === 'string') return [];
  const children = Object.entries(tree).filter(([key, value]) => !key.startsWith('@_') && key !== '#text' && value !== undefined);
  const names = children.map(([key]) => key.replace(/^c[ab]c:/, ''));
  const order = published[name];
  const inOrder = !order || names.join(' ') === order.filter((each) => names.includes(each)).join(' ');
  const below = children.flatMap(([key, value]) =>
    (Array.isArray(value) ? value : [value as Tree]).flatMap((one: Tree) => misplaced(one, key.replace(/^c[ab]c:/, ''))),
  );
  return [...(inOrder ? [] : [`${name}: ${names.join(' ')}`]), ...below];
}
const rooted = (document: Record<string, Tree>): string[] => Object.entries(document).flatMap(([name, tree]) => misplaced(tree, name));

const party = { name: 'Larkmoor Bee Supply', address: ['Weir Lane', '', 'Larkmoor LM3'], taxNumber: 'LB 1' };
const invoice: UblInvoice = {
  kind: 'invoice',
  number: 'INV-7',
  issuedOn: '2026-11-24',
  dueOn: '2026-12-24',
  notes: ['Thank you.', ' '],
  currency: 'GBP',
  reference: 'PO 9',
  orders: ['SO-1', 'SO-2'],
  credits: null,
  seller: party,
  customer: { name: 'Copse Lane School', address: [] },
  payTo: 'The bank',
  net: '26.00',
  tax: '5.20',
  total: '31.20',
  taxes: [{ rate: '20', base: '26.00', tax: '5.20' }],
  lines: [
    {
      id: '1',
      sku: 'JAR',
      name: 'Jar & lid',
      quantity: '2',
      unit: 'case',
      price: { amount: '12.50', per: '1' },
      discount: { base: '25.00', amount: '5.00' },
      amount: '20.00',
      rate: '20',
      lots: ['L-1', 'L-2'],
      order: { number: 'SO-1', line: '3' },
    },
    { id: '2', sku: '', name: 'Freight', quantity: '1', unit: 'each', amount: '6.00', rate: '0' },
  ],
};

describe('documents of the universal business language', () => {
  test('have their elements in the published order', () => {
    const order = {
      number: 'SO-1',
      orderedOn: '2026-11-20',
      notes: ['ring first'],
      currency: 'GBP',
      reference: 'PO 9',
      seller: party,
      customer: party,
      shipTo: ['Back door'],
      shipBy: '2026-11-30',
      net: '20.00',
      tax: '4.00',
      total: '24.00',
      lines: invoice.lines,
    };
    const despatch = {
      number: 'SH-1',
      sentOn: '2026-11-24',
      order: 'SO-1',
      reference: '',
      seller: party,
      customer: party,
      tracking: ['HW1'],
      lines: [{ ...invoice.lines[0], orderLine: '3' }],
    };
    expect([
      ...rooted(ublInvoice(invoice)),
      ...rooted(ublInvoice({ ...invoice, kind: 'credit', credits: 'INV-6' })),
      ...rooted(ublOrder(order)),
      ...rooted(ublDespatch(despatch as Parameters<typeof ublDespatch>[0])),
    ]).toEqual([]);
  });

  test('an order of elements that is not the published one would be seen', () =>
    expect(rooted({ Invoice: { 'cbc:IssueDate': '2026-11-24', 'cbc:ID': 'INV-7' } })).toEqual(['Invoice: IssueDate ID']));

  test('name the customer’s own order, units by their codes, and each lot; empty words and addresses are left out', () => {
    const { Invoice } = ublInvoice(invoice) as { Invoice: Record<string, never> };
    expect(Invoice['cac:OrderReference']).toEqual({ 'cbc:ID': 'PO 9', 'cbc:SalesOrderID': 'SO-1, SO-2' });
    expect(Invoice['cbc:Note']).toEqual(['Thank you.']);
    const [goods, freight] = Invoice['cac:InvoiceLine'] as unknown as Record<string, never>[];
    expect(goods?.['cbc:InvoicedQuantity']).toEqual({ '@_unitCode': 'CS', '#text': '2' });
    expect(goods?.['cac:Item']).toMatchObject({
      'cac:ItemInstance': [{ 'cac:LotIdentification': { 'cbc:LotNumberID': 'L-1' } }, { 'cac:LotIdentification': { 'cbc:LotNumberID': 'L-2' } }],
    });
    expect(freight?.['cac:Price']).toEqual({
      'cbc:PriceAmount': { '@_currencyID': 'GBP', '#text': '6.00' },
      'cbc:BaseQuantity': { '@_unitCode': 'C62', '#text': '1' },
    });
    expect(freight?.['cac:Item']).toMatchObject({ 'cac:ClassifiedTaxCategory': { 'cbc:ID': 'Z', 'cbc:Percent': '0' } });
    expect(Invoice['cac:AccountingCustomerParty']).toMatchObject({ 'cac:Party': { 'cac:PostalAddress': undefined } });
  });
});
