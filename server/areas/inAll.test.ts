import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as catalog from '@larder/contract/catalog';
import type { Asked, Endpoint, ResponseOf } from '@larder/contract/endpoint';
import * as inbound from '@larder/contract/inbound';
import * as lots from '@larder/contract/lots';
import * as outbound from '@larder/contract/outbound';
import * as receiving from '@larder/contract/receiving';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../testing/business';
import { cents, rateOf } from '../testing/fraction';
import { ordered, sold, stocked } from '../testing/trade';

/** What lists say they come to in all, against their own rows read page by page and added up in whole cents. */
let business: Business;
beforeAll(async () => {
  business = await openBusiness();
  const { owner, supplierId, siteId } = business;
  const skus = ['SUM-1', 'SUM-2', 'SUM-3', 'SUM-4', 'SUM-5'];
  const ids: number[] = [];
  for (const sku of skus) ids.push(await business.item(sku));
  await business.item('SUM-SERVICE', { kind: 'service' });
  const [first, second, third, fourth] = ids as [number, number, number, number];
  // Odd cents: 7 at 0.333333 and 3 at 1.115.
  const { order } = await stocked(business, first, '7', '0.333333');
  await stocked(business, second, '3', '1.115');
  await ordered(business, third, '11', '2.005');
  const abroad = await owner.get(inbound.createPurchase, {
    body: { supplierId, siteId, currency: 'USD', rate: '0.8137', lines: [{ itemId: fourth, quantity: '3', price: '9.99' }] },
  });
  await owner.get(inbound.createPurchase, { body: { supplierId, siteId: business.otherSiteId, lines: [{ itemId: second, quantity: '1', price: '4.44' }] } });
  await sold(business, first, '2');
  await sold(business, second, '9');
  await owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId, shipBy: '2026-03-12', lines: [{ itemId: fifthOf(ids), quantity: '3', price: '1.335' }] },
  });
  const { rows } = await owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['Q-1'] } });
  await owner.get(stock.correct, {
    body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId: second, binId: (rows[0] as { id: number }).id, quantity: '4' }] },
  });
  // Two bills, one in dollars, of which part is paid; and a credit.
  const placed = await owner.get(inbound.decidePurchase, { params: { id: abroad.id }, body: { decision: 'place', version: abroad.version } });
  const [line] = placed.lines;
  await owner.get(receiving.receive, { body: { lines: [{ lineId: line?.id as number, quantity: '3', binId: business.bins[0] as number }] } });
  const bill = (purchaseLineId: number, quantity: string, price: string, part: Partial<bills.BillForm>) =>
    owner.get(bills.createBill, {
      body: { partyId: supplierId, reference: `R ${price}`, billedOn: '2026-03-10', lines: [{ kind: 'goods', purchaseLineId, quantity, price }], ...part },
    });
  await bill(line?.id as number, '3', '9.99', { currency: 'USD', rate: '0.8201' });
  const ours = await bill(order.lineId, '7', '0.36', {});
  await owner.get(bills.createBill, {
    body: {
      partyId: supplierId,
      kind: 'credit',
      reference: 'R credit',
      billedOn: '2026-03-10',
      lines: [{ kind: 'credit', purchaseLineId: order.lineId, amount: '0.37' }],
    },
  });
  await owner.get(bills.pay, { params: { id: ours.id as number }, body: { paidOn: '2026-03-10', amount: '1.01' } });
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
const fifthOf = (ids: readonly number[]): number => ids[4] as number;

type Rows<E extends Endpoint> = ResponseOf<E> extends { rows: (infer R)[] } ? R[] : never;

/** All rows of a list, read two at a time. */
async function rowsOf<E extends Endpoint>(list: E, query: object): Promise<Rows<E>> {
  const all: unknown[] = [];
  for (let cursor: string | undefined; ;) {
    const page = (await business.owner.get(list, { query: { ...query, limit: 2, cursor } } as Asked<E>)) as { rows: unknown[]; next: string | null };
    all.push(...page.rows);
    if (page.next === null) return all as Rows<E>;
    cursor = page.next;
  }
}
const inCents = (text: string): number => (text.startsWith('-') ? -cents(hundredfold(text.slice(1))) : cents(hundredfold(text)));
const hundredfold = (text: string) => {
  const [n, d] = rateOf(text);
  return [n * 100n, d] as const;
};
const sum = (texts: readonly string[]): number => texts.reduce((all, text) => all + inCents(text), 0);
const byCurrency = (rows: readonly { currency: string; amount: string }[]) =>
  [...new Set(rows.map(({ currency }) => currency))]
    .sort()
    .map((currency) => [currency, sum(rows.filter((row) => row.currency === currency).map(({ amount }) => amount))] as const);

describe('what a list comes to in all', () => {
  test('stock: every item that fits, and its value, over all sites, at each, and held to words or a state', async () => {
    const values: number[] = [];
    for (const query of [
      {},
      { q: 'sum-2' },
      { state: 'in-stock' },
      { state: 'short' },
      { siteId: business.siteId },
      { siteId: business.otherSiteId },
      { siteId: business.otherSiteId, state: 'in-stock' },
    ] as const) {
      const rows = await rowsOf(stock.stockTable, query);
      const all = await business.owner.get(stock.stockInAll, { query });
      expect([query, all.count, inCents(all.value)]).toEqual([query, rows.length, sum(rows.map(({ value }) => value))]);
      values.push(inCents(all.value));
    }
    // Both sites together are the whole, to the cent.
    expect((values[4] as number) + (values[5] as number)).toBe(values[0]);
    expect(values[0]).toBeGreaterThan(0);
  });

  test('stock: who may not see cost is told how many, and no value', async () => {
    const floor = await business.as('Floor');
    expect(await floor.get(stock.stockInAll, {})).toEqual({ count: 5, value: '' });
    const { amounts } = await floor.get(inbound.purchasesInAll, { query: { show: 'all' } });
    expect(amounts.every(({ amount }) => amount === '')).toBe(true);
  });

  test('items: those in use, of a kind, and those that words fit', async () => {
    for (const query of [{}, { kind: 'service' }, { q: 'sum' }, { q: 'nothing like it' }, { life: 'retired' }, { state: 'in-stock' }] as const) {
      const rows = await rowsOf(catalog.listItems, query);
      expect([query, await business.owner.get(catalog.itemsInAll, { query })]).toEqual([query, { count: rows.length }]);
    }
  });

  test('purchase orders: what they come to in each currency, less what was called off', async () => {
    for (const query of [
      { show: 'all' },
      { show: 'open' },
      { show: 'drafts' },
      { show: 'all', siteId: business.otherSiteId },
      { show: 'all', to: 'customer' },
    ] as const) {
      const rows = await rowsOf(inbound.listPurchases, query);
      const all = await business.owner.get(inbound.purchasesInAll, { query });
      expect([query, all.count]).toEqual([query, rows.length]);
      expect(all.amounts.map(({ currency, amount }) => [currency, inCents(amount)])).toEqual(byCurrency(rows));
    }
    const { amounts } = await business.owner.get(inbound.purchasesInAll, { query: { show: 'all' } });
    expect(amounts.map(({ currency }) => currency)).toEqual(['GBP', 'USD']);
    expect(amounts[1]?.amount).toBe('29.97');
  });

  test('sales orders and quotes', async () => {
    for (const query of [{ show: 'all' }, { show: 'open' }, { show: 'quotes' }, { show: 'all', q: 'nobody' }] as const) {
      const rows = await rowsOf(outbound.listSales, query);
      const all = await business.owner.get(outbound.salesInAll, { query });
      expect([query, all.count, inCents(all.amounts[0]?.amount ?? '0')]).toEqual([query, rows.length, sum(rows.map(({ amount }) => amount))]);
    }
  });

  test('bills: what is still to be paid in each currency, after part was paid', async () => {
    for (const query of [{ show: 'all' }, { show: 'open' }, { show: 'waiting' }, { show: 'all', q: '0.36' }] as const) {
      const rows = await rowsOf(bills.listBills, query);
      const all = await business.owner.get(bills.billsInAll, { query });
      expect([query, all.count]).toEqual([query, rows.length]);
      expect(all.open.map(({ currency, amount }) => [currency, inCents(amount)])).toEqual(
        byCurrency(rows.map(({ kind, currency, open }) => ({ currency, amount: kind === 'credit' ? `-${open}` : open }))),
      );
    }
    // 7 at 0.36, less 1.01 paid and 0.37 credited; and 3 at 9.99 in dollars.
    expect((await business.owner.get(bills.billsInAll, { query: { show: 'open' } })).open).toEqual([
      { currency: 'GBP', amount: '1.14' },
      { currency: 'USD', amount: '29.97' },
    ]);
  });

  test('suppliers, customers, lots: how many', async () => {
    for (const query of [{ as: 'supplier' }, { as: 'customer' }, { as: 'supplier', q: 'hexley' }, { as: 'supplier', life: 'retired' }] as const) {
      const rows = await rowsOf(setup.partyList, query);
      expect([query, await business.owner.get(setup.partiesInAll, { query })]).toEqual([query, { count: rows.length }]);
    }
    for (const query of [{ state: 'all' }, { state: 'gone' }, { state: 'here', kind: 'serial' }] as const) {
      const rows = await rowsOf(lots.listLots, query);
      expect([query, await business.owner.get(lots.lotsInAll, { query })]).toEqual([query, { count: rows.length }]);
    }
  });
});
