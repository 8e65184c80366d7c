import type { ParcelToBill } from '@larder/contract/carriers';
import { expect, test } from '@jest/globals';
import type { BillableLine, OpenCharge } from '@larder/contract/bills';
import { billField, expectedMoney, proposed, sentLines, type Typed } from './billDraft';

const line = (part: Partial<BillableLine>): BillableLine => ({
  purchaseLineId: 1,
  orderId: 1,
  orderNumber: 'PO-1',
  position: 1,
  sku: 'A',
  name: 'A thing',
  unit: 'each',
  factor: '1',
  ordered: '24',
  received: '24',
  returned: '0',
  billed: '0',
  price: '2.00',
  pricePer: '1',
  taxCodeId: 1,
  currency: 'GBP',
  rate: '1',
  ...part,
});

test('what has come and is not billed is put in; what has not come is left empty', () => {
  expect(proposed([line({ billed: '10' }), line({ received: '0' })], 'bill', 'GBP').map(({ quantity }) => quantity)).toEqual(['14', '']);
});
test('a bill is expected in the currency of what has come on it; what was ordered in another is left empty', () => {
  const lines = [line({ billed: '24', currency: 'USD', rate: '0.75' }), line({ purchaseLineId: 2, currency: 'EUR', rate: '0.86' })];
  expect(expectedMoney(lines, 'GBP')).toEqual({ currency: 'EUR', rate: '0.86' });
  expect(expectedMoney(lines.slice(0, 1), 'GBP')).toEqual({ currency: 'USD', rate: '0.75' });
  expect(expectedMoney([], 'GBP')).toEqual({ currency: 'GBP', rate: '1' });
  expect(proposed([line({}), ...lines], 'bill', 'EUR').map(({ quantity, price }) => [quantity, price])).toEqual([
    ['', ''],
    ['', ''],
    ['24', '2.00'],
  ]);
});
test('empty lines are left off; the tax of goods only when asked', () => {
  const charge = { id: 9, name: 'Freight' } as OpenCharge;
  const goods = proposed([line({}), line({ purchaseLineId: 2, received: '0' })], 'bill', 'GBP');
  const charges = [{ at: 0, charge, amount: ' 640.00 ', final: true, taxCodeId: 2 }];
  const others = [
    { text: '', accountId: '', amount: '', taxCodeId: null },
    { text: 'Pallets', accountId: '5', amount: '12', taxCodeId: 1 },
  ];
  const parcels = [
    { at: 0, parcel: { id: 31 } as ParcelToBill, amount: '', taxCodeId: null },
    { at: 1, parcel: { id: 32 } as ParcelToBill, amount: ' 7.10 ', taxCodeId: 2 },
  ];
  const bill: Typed = { kind: 'bill', goods, charges, parcels, others, withTax: false };
  const sent = sentLines(bill);
  expect(sent.map(({ line: one }) => one)).toEqual([
    { kind: 'goods', purchaseLineId: 1, quantity: '24', price: '2.00', taxCodeId: null },
    { kind: 'charge', chargeId: 9, amount: '640.00', final: true, taxCodeId: 2 },
    { kind: 'parcel', parcelId: 32, amount: '7.10', taxCodeId: 2 },
    { kind: 'other', text: 'Pallets', accountId: 5, amount: '12', taxCodeId: 1 },
  ]);
  expect(sentLines({ ...bill, withTax: true })[0]?.line).toMatchObject({ taxCodeId: 1 });
  expect(sentLines({ ...bill, kind: 'credit' }).map(({ row }) => row)).toEqual(['goods.0', 'others.1']);
});
test('what is refused of a line is said in the row of the form that it was typed in', () => {
  const charge = { id: 9, name: 'Freight' } as OpenCharge;
  const sent = sentLines({
    kind: 'bill',
    goods: proposed([line({ received: '0' }), line({ purchaseLineId: 2 })], 'bill', 'GBP'),
    charges: [{ at: 3, charge, amount: '640.00', final: false, taxCodeId: null }],
    parcels: [],
    others: [
      { text: '', accountId: '', amount: '', taxCodeId: null },
      { text: 'Pallets', accountId: '5', amount: '12', taxCodeId: 1 },
    ],
    withTax: true,
  });
  expect(
    ['lines.0.price', 'lines.0.purchaseLineId', 'lines.1.amount', 'lines.1.chargeId', 'lines.2.accountId', 'lines.7.price', 'lines', 'rate'].map((path) =>
      billField(path, sent),
    ),
  ).toEqual(['goods.1.price', 'goods.1.quantity', 'charges.3.amount', 'charges.3.amount', 'others.1.accountId', 'lines.7.price', 'lines', 'rate']);
});
test('a credit has goods that went back by quantity, and amounts off for all others', () => {
  const goods = proposed([line({ received: '20', billed: '24' }), line({ purchaseLineId: 2, billed: '24' })], 'credit', 'GBP').map((one, index) => ({
    ...one,
    quantity: ['4', '6.50'][index] ?? '',
  }));
  expect(sentLines({ kind: 'credit', goods, charges: [], parcels: [], others: [], withTax: false })).toEqual([
    { row: 'goods.0', line: { kind: 'goods', purchaseLineId: 1, quantity: '4', price: '2.00', taxCodeId: null } },
    { row: 'goods.1', line: { kind: 'credit', purchaseLineId: 2, amount: '6.50', taxCodeId: null } },
  ]);
});
