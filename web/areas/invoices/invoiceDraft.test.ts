import { describe, expect, test } from '@jest/globals';
import { draftOf, foreseenInvoice, invoiceField, sentInvoice, textKey, type InvoiceDraft, type Proposal } from './invoiceDraft';

const proposal = {
  reference: 'PO 7',
  opening: 'Thank you.',
  closing: '',
  taxCodeId: 2,
  dispatches: [
    { orderId: 1, movementId: 10 },
    { orderId: 1, movementId: 11 },
  ],
  freight: [
    { shipmentId: 5, number: 'SH-5', movementId: 10, amount: '6.50' },
    { shipmentId: 6, number: 'SH-6', movementId: 11, amount: '4.00' },
  ],
} as unknown as Proposal;
const typed = (part: Partial<InvoiceDraft> = {}): InvoiceDraft => ({ ...draftOf(proposal, '2026-11-24'), ...part });
const row = (text: string, amount: string) => ({ text, amount, accountId: null, taxCodeId: null });

describe('an invoice while it is typed', () => {
  test('is for everything that went out, at what was said, until somebody says otherwise', () =>
    expect(sentInvoice(typed())).toEqual({
      dispatches: [
        { orderId: 1, movementId: 10 },
        { orderId: 1, movementId: 11 },
      ],
      invoicedOn: '2026-11-24',
      dueOn: null,
      rate: null,
      reference: 'PO 7',
      opening: 'Thank you.',
      closing: '',
      texts: [],
      freight: [
        { shipmentId: 5, amount: '6.50', taxCodeId: 2 },
        { shipmentId: 6, amount: '4.00', taxCodeId: 2 },
      ],
      others: [],
    }));

  test('leaves out a dispatch that is not ticked, with what was charged for it, and charges of nothing', () => {
    const [first, second] = typed().dispatches as [InvoiceDraft['dispatches'][number], InvoiceDraft['dispatches'][number]];
    const [a, b] = typed().freight as [InvoiceDraft['freight'][number], InvoiceDraft['freight'][number]];
    const one = sentInvoice(typed({ dispatches: [{ ...first, on: false }, second], freight: [a, { ...b, amount: ' 0.00 ' }] }));
    expect([one.dispatches, one.freight]).toEqual([[{ orderId: 1, movementId: 11 }], []]);
  });

  test('is foreseen with charges that are whole, and sent with all that were begun', () => {
    const draft = typed({ others: [row('', ''), row('Wrapping', ''), row('Basket', ' 3.20 ')] });
    expect(foreseenInvoice(draft).others?.map(({ text }) => text)).toEqual(['Basket']);
    expect(sentInvoice(draft).others?.map(({ text, amount }) => [text, amount])).toEqual([
      ['Wrapping', ''],
      ['Basket', '3.20'],
    ]);
  });

  test('what is refused is said at the field it was typed in', () => {
    const [first, second] = typed().dispatches as [InvoiceDraft['dispatches'][number], InvoiceDraft['dispatches'][number]];
    const draft = typed({
      dispatches: [{ ...first, on: false }, second],
      texts: { [textKey(7)]: undefined, [textKey(8)]: 'Honey' },
      others: [row('', ''), row('Wrapping', '')],
    });
    expect(['dispatches.0', 'freight.0.amount', 'texts.0.text', 'others.0.amount', 'invoicedOn'].map((path) => invoiceField(path, draft))).toEqual([
      'dispatches.1.on',
      'freight.1.amount',
      'texts.line8',
      'others.1.amount',
      'invoicedOn',
    ]);
    expect(sentInvoice(draft).texts).toEqual([{ salesLineId: 8, text: 'Honey' }]);
  });
});
