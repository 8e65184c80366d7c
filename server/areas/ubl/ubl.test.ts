import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as invoices from '@larder/contract/invoices';
import * as outbound from '@larder/contract/outbound';
import * as papers from '@larder/contract/papers';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import { XMLParser } from 'fast-xml-parser';
import { openBusiness, type Business } from '../../testing/business';

type Node = Record<string, never>;
let business: Business;
let orderId = 0;
let movementId = 0;
let invoiceId = 0;
beforeAll(async () => {
  business = await openBusiness();
  const { owner, bins, customerId, siteId } = business;
  await business.pool.query("UPDATE party SET address = 'Copse Lane <2> & 4' WHERE id = $1", [customerId]);
  const { hasLogo: _has, ...form } = await owner.get(papers.getPapers, {});
  await owner.get(papers.keepPapers, { body: { ...form, address: 'Weir Lane', taxNumber: 'LB 1', payTo: 'The bank' } });
  const itemId = await business.item('UBL-A', { tracking: 'lot' });
  const lots = [{ code: 'L-1', quantity: '5' }];
  await owner.get(stock.openStock, { body: { lines: [{ itemId, binId: bins[0] as number, quantity: '5', unitValue: '1', lots }] } });
  const quote = await owner.get(outbound.createSale, {
    body: { customerId, siteId, shipBy: '2026-03-20', reference: 'PO 9', lines: [{ itemId, quantity: '5', price: '4.00', discount: '10' }] },
  });
  orderId = quote.id;
  const early = await file('orders', orderId);
  expect(early.status).toBe(409);
  await owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
  const list = await owner.get(picking.pickList, { params: { id: quote.id } });
  const lines = list.rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
  await owner.get(picking.pick, { body: { orderId, lines } });
  const sent = await owner.get(shipping.dispatch, {
    body: { orderId, lines: [{ lineId: quote.lines[0]?.id as number, quantity: '5' }], way: 'van', charged: '6.50' },
  });
  movementId = sent.movementId as number;
  const made = await owner.get(invoices.createInvoice, { body: { dispatches: [{ orderId, movementId }], invoicedOn: '2026-03-10' } });
  invoiceId = made.id as number;
});
afterAll(() => business.close());

async function file(what: string, id: number, cookie = business.owner.cookie): Promise<{ status: number; text: string }> {
  const answer = await fetch(`${business.base}/api/ubl/${what}/${id}`, { headers: { Cookie: cookie } });
  return { status: answer.status, text: await answer.text() };
}
/** Read back by a reader that takes every value as text. */
const read = (text: string): Node => new XMLParser({ ignoreAttributes: false, parseTagValue: false, trimValues: false }).parse(text) as Node;
const at = (node: unknown, path: string): unknown =>
  path
    .split(' ')
    .reduce<unknown>(
      (now, key) =>
        (now as Record<string, unknown> | undefined)?.[key.includes(':') || key.startsWith('#') ? key : Number.isNaN(Number(key)) ? key : Number(key)],
      node,
    );

test('an invoice is read back as it was issued: parties, lines with lots and discounts, tax and what is to be paid', async () => {
  const { text } = await file('invoices', invoiceId);
  expect(text.startsWith('<?xml version="1.0" encoding="UTF-8"?>\n<Invoice xmlns="urn:oasis:names:specification:ubl:schema:xsd:Invoice-2"')).toBe(true);
  const one = at(read(text), 'Invoice');
  expect(at(one, 'cbc:ID')).toBe('INV-1');
  expect(at(one, 'cac:OrderReference cbc:ID')).toBe('PO 9');
  expect(at(one, 'cac:AccountingSupplierParty cac:Party cac:PartyTaxScheme cbc:CompanyID')).toBe('LB 1');
  expect(at(one, 'cac:AccountingCustomerParty cac:Party cac:PostalAddress cac:AddressLine cbc:Line')).toBe('Copse Lane <2> & 4');
  expect(at(one, 'cac:LegalMonetaryTotal cbc:TaxExclusiveAmount #text')).toBe('24.50');
  expect(at(one, 'cac:LegalMonetaryTotal cbc:PayableAmount')).toEqual({ '#text': '29.40', '@_currencyID': 'GBP' });
  expect(at(one, 'cac:TaxTotal cac:TaxSubtotal cac:TaxCategory cbc:Percent')).toBe('20');
  const [goods, freight] = at(one, 'cac:InvoiceLine') as [Node, Node];
  expect(at(goods, 'cbc:LineExtensionAmount #text')).toBe('18.00');
  expect(at(goods, 'cac:AllowanceCharge cbc:Amount #text')).toBe('2.00');
  expect(at(goods, 'cac:Item cac:ItemInstance cac:LotIdentification cbc:LotNumberID')).toBe('L-1');
  expect(at(goods, 'cac:OrderLineReference cbc:LineID')).toBe('1');
  expect(at(freight, 'cac:Price cbc:PriceAmount #text')).toBe('6.50');
});

test('a credit note names its invoice; the lines of both add up to their sums', async () => {
  const { lines } = await business.owner.get(invoices.getInvoice, { params: { id: invoiceId } });
  const note = await business.owner.get(invoices.creditInvoice, {
    params: { id: invoiceId },
    body: { invoicedOn: '2026-03-10', opening: 'Two broken.', lines: [{ lineId: lines[0]?.id as number, quantity: '2' }] },
  });
  const one = at(read((await file('invoices', note.id as number)).text), 'CreditNote');
  expect(at(one, 'cac:BillingReference cac:InvoiceDocumentReference cbc:ID')).toBe('INV-1');
  expect(at(one, 'cac:CreditNoteLine cbc:CreditedQuantity')).toEqual({ '#text': '2', '@_unitCode': 'C62' });
  expect(at(one, 'cac:CreditNoteLine cbc:LineExtensionAmount #text')).toBe('7.20');
  expect(at(one, 'cac:LegalMonetaryTotal cbc:PayableAmount #text')).toBe('8.64');
});

test('an order and its dispatch are read back; what was undone or is nobody’s to see is not given', async () => {
  const order = at(read((await file('orders', orderId)).text), 'Order');
  expect([at(order, 'cbc:ID'), at(order, 'cbc:IssueDate'), at(order, 'cac:AnticipatedMonetaryTotal cbc:PayableAmount #text')]).toEqual([
    'PO 9',
    '2026-03-10',
    '21.60',
  ]);
  expect(at(order, 'cac:OrderLine cac:LineItem cac:Item cac:SellersItemIdentification cbc:ID')).toBe('UBL-A');
  const sent = at(read((await file('dispatches', movementId)).text), 'DespatchAdvice');
  expect(at(sent, 'cbc:ID')).toMatch(/^SH-\d+$/);
  expect(at(sent, 'cac:DespatchLine cbc:DeliveredQuantity #text')).toBe('5');
  expect(at(sent, 'cac:DespatchLine cac:Item cac:ItemInstance cac:LotIdentification cbc:LotNumberID')).toBe('L-1');
  expect((await file('dispatches', 1)).status).toBe(404);
  expect((await file('invoices', invoiceId, (await business.as('Sales desk')).cookie)).status).toBe(403);
});
