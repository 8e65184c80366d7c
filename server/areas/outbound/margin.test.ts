import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as margin from '@larder/contract/margin';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { openBusiness, signIn, type Business } from '../../testing/business';
import { stocked } from '../../testing/trade';

/** Two customers, two months, odd cents, undos: what is added up one way comes to the same every other way, and to a reckoning in whole numbers. */
let business: Business;
/** Each line's amount in cents, how many it is, and how many are gone. */
const lines: { orderId: number; cents: bigint; of: bigint; gone: bigint; item: string; customer: string }[] = [];
beforeAll(async () => {
  business = await openBusiness();
  const { bins } = business;
  let { owner } = business;
  const items = { 'M-A': await business.item('M-A'), 'M-B': await business.item('M-B') };
  await stocked(business, items['M-A'], '20', '2.345');
  await stocked(business, items['M-B'], '20', '1.111');
  const { id: second } = await owner.get(setup.createParty, { body: { name: 'Brook Street Deli', isCustomer: true } });
  const sell = async (
    customerId: number,
    customer: string,
    of: { item: keyof typeof items; quantity: string; price: string; pricePer: string; cents: bigint }[],
  ) => {
    const quote = await owner.get(outbound.createSale, {
      body: {
        customerId,
        siteId: business.siteId,
        shipBy: '2026-04-20',
        lines: of.map(({ item, quantity, price, pricePer }) => ({ itemId: items[item], quantity, price, pricePer })),
      },
    });
    await owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
    quote.lines.forEach(({ baseQuantity }, at) => {
      const { cents, item } = of[at] as (typeof of)[number];
      lines.push({ orderId: quote.id, cents, of: BigInt(baseQuantity), gone: 0n, item, customer });
    });
    return quote;
  };
  const send = async (orderId: number, lineId: number, quantity: string, at: number) => {
    await owner.get(picking.pick, { body: { orderId, lines: [{ lineId, binId: bins[0] as number, quantity }] } });
    const { movementId } = await owner.get(shipping.dispatch, { body: { orderId, lines: [{ lineId, quantity }] } });
    (lines[at] as (typeof lines)[number]).gone += BigInt(quantity);
    return movementId as number;
  };
  const first = await sell(business.customerId, 'Copse Lane School', [
    { item: 'M-A', quantity: '3', price: '10.00', pricePer: '3', cents: 1000n },
    { item: 'M-B', quantity: '7', price: '9.99', pricePer: '7', cents: 999n },
  ]);
  const other = await sell(second, 'Brook Street Deli', [{ item: 'M-A', quantity: '7', price: '50.03', pricePer: '7', cents: 5003n }]);
  const [a, b] = first.lines.map(({ id }) => id) as [number, number];
  const undone = await send(first.id, a, '1', 0);
  await send(first.id, a, '1', 0);
  await send(first.id, b, '4', 1);
  await send(other.id, other.lines[0]?.id as number, '3', 2);
  business.clock.now = new Date('2026-04-02T10:00:00Z');
  business.owner = owner = await signIn(business.base, 'owner@test.example');
  await owner.get(stock.undo, { body: { movementId: undone } });
  (lines[0] as (typeof lines)[number]).gone -= 1n;
  await send(other.id, other.lines[0]?.id as number, '2', 2);
  await send(first.id, b, '2', 1);
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const text = (cents: bigint) => `${cents / 100n}.${String(cents % 100n).padStart(2, '0')}`;
/** The share of a line's amount for what is gone of it, half a cent rounded up. */
const soldOf = ({ cents, of, gone }: (typeof lines)[number]) => (2n * cents * gone + of) / (2n * of);
const by = async (way: (typeof margin.marginWays)[number], part: object = {}) =>
  (await business.owner.get(margin.listMargin, { query: { by: way, sort: 'name', direction: 'up', ...part } })).rows;
const sums = (key: 'orderId' | 'item' | 'customer') => {
  const all = new Map<unknown, bigint>();
  for (const line of lines) all.set(line[key], (all.get(line[key]) ?? 0n) + soldOf(line));
  return [...all.values()].map(text).sort();
};
const cents = (amounts: string[]) => amounts.reduce((all, amount) => all + BigInt(amount.replace('.', '')), 0n);

test('by order, line, item and customer it is what the lines were sold for', async () => {
  expect((await by('order')).map(({ sold }) => sold).sort()).toEqual(sums('orderId'));
  expect((await by('line')).map(({ sold }) => sold).sort()).toEqual(lines.map((line) => text(soldOf(line))).sort());
  expect((await by('item')).map(({ sold }) => sold).sort()).toEqual(sums('item'));
  expect((await by('customer')).map(({ sold }) => sold).sort()).toEqual(sums('customer'));
});

test('by month, an undo counts where it was done; all ways come to the same, as does what is said of all', async () => {
  const months = await by('month');
  expect(months.map(({ name }) => name)).toEqual(['2026-03', '2026-04']);
  const all = await business.owner.get(margin.marginInAll, { query: { by: 'month' } });
  for (const way of margin.marginWays) {
    const rows = await by(way);
    const inAll = await business.owner.get(margin.marginInAll, { query: { by: way } });
    expect([way, inAll.count, cents(rows.map(({ sold }) => sold)), cents(rows.map(({ cost }) => cost))]).toEqual([
      way,
      rows.length,
      cents([all.sold]),
      cents([all.cost]),
    ]);
    for (const row of rows) expect(cents([row.sold]) - cents([row.cost])).toBe(cents([row.margin]));
  }
});

test('an order says the same of itself; words and days narrow the list', async () => {
  const { orderId } = lines[0] as (typeof lines)[number];
  const order = await business.owner.get(outbound.getSale, { params: { id: orderId } });
  expect((await by('order')).find(({ key }) => key === orderId)).toMatchObject({
    name: order.number,
    sold: order.dispatchedAmount,
    cost: order.dispatchedCost,
    margin: order.margin,
    orderId,
  });
  expect((await by('line', { q: 'm-b' })).map(({ quantity, detail }) => [quantity, detail])).toEqual([['6', 'M-B Item M-B']]);
  expect((await by('customer', { to: '2026-03-31' })).map(({ orders }) => orders)).toEqual([1, 1]);
  expect(await by('order', { from: '2026-05-01' })).toEqual([]);
});

test('it is sorted by any of its figures either way, page after page', async () => {
  for (const sort of margin.marginSorts)
    for (const direction of ['up', 'down'] as const) {
      const all = await by('line', { sort, direction });
      const keys: number[] = [];
      let cursor: string | undefined;
      do {
        const page = await business.owner.get(margin.listMargin, { query: { by: 'line', sort, direction, limit: 1, cursor } });
        keys.push(...page.rows.map(({ key }) => key));
        cursor = page.next ?? undefined;
      } while (cursor !== undefined);
      expect(keys).toEqual(all.map(({ key }) => key));
      const values = all.map((row) => (sort === 'name' ? row.name : Number(row[sort])));
      const sorted = [...values].sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
      expect([sort, direction, values]).toEqual([sort, direction, direction === 'up' ? sorted : sorted.reverse()]);
    }
});

test('who may not see what things cost is not told', async () => {
  expect((await (await business.as('Floor')).ask(margin.listMargin, {})).status).toBe(403);
});
