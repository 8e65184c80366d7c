import { expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as invoices from '@larder/contract/invoices';
import * as margin from '@larder/contract/margin';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as contract from '@larder/contract/returns';
import * as setup from '@larder/contract/setup';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import { dice } from '../../demo/dice';
import { openBusiness } from '../../testing/business';

const today = '2026-03-10';
/** Half away from zero, in whole numbers: of `amount` the share `part` of `whole`. */
const share = (amount: bigint, part: bigint, whole: bigint): bigint => (whole === 0n ? 0n : (2n * amount * part + whole) / (2n * whole));
const cents = (text: string): bigint => BigInt(Math.round(Number(text) * 100));

interface Dispatch {
  quantity: bigint;
  cost: bigint;
  back: bigint;
  backCost: bigint;
}
interface Back {
  movementId: number;
  order: number;
  parts: { of: Dispatch; quantity: bigint; value: bigint }[];
  isScrap: boolean;
}

test.each([417, 20261129])(
  'sending, returning, scrapping, undoing, invoicing and crediting as the dice of %s fall: stock, cost and what is owed come to a reckoning in whole cents',
  async (seed) => {
    const business = await openBusiness();
    const { owner, bins, customerId, siteId } = business;
    const chance = dice(seed);
    const upTo = (n: number) => Math.floor(chance.roll() * n);
    const reasonId = (await owner.get(setup.reference)).returnReasons[0]?.id as number;
    const itemId = await business.item('TURNED');
    // 97 of them are worth 100.01: nothing divides evenly.
    await owner.get(stock.openStock, { body: { lines: [{ itemId, binId: bins[0] as number, quantity: '97', unitValue: '1.03103', lots: [] }] } });
    const pool = { quantity: 97n, value: 10_001n };
    const account = async (code: string) => cents((await owner.get(books.listAccounts, {})).rows.find((row) => row.code === code)?.balance ?? '0');
    expect(await account('1200')).toBe(pool.value);
    const orders: { id: number; number: string; lineId: number; quantity: number; total: bigint; dispatches: Dispatch[]; invoiced: bigint; asked: bigint }[] =
      [];
    for (const [quantity, price, per, total] of [
      [7, '9.99', '7', 999n],
      [3, '10.00', '3', 1000n],
      [11, '0.335', '1', 369n],
      [13, '1', '7', 186n],
    ] as const) {
      const lines = [{ itemId, quantity: String(quantity), price, pricePer: per }];
      const quote = await owner.get(outbound.createSale, { body: { customerId, siteId, shipBy: '2026-03-20', lines } });
      await owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
      orders.push({ id: quote.id, number: quote.number, lineId: quote.lines[0]?.id ?? 0, quantity, total, dispatches: [], invoiced: 0n, asked: 0n });
    }
    const returns: Back[] = [];
    let scrapped = 0n;
    const any = () => orders[upTo(orders.length)] as (typeof orders)[number];
    const sum = <T>(all: readonly T[], of: (one: T) => bigint) => all.reduce((total, one) => total + of(one), 0n);
    const sent = (order: (typeof orders)[number]) => sum(order.dispatches, ({ quantity }) => quantity);
    const kept = (order: (typeof orders)[number]) => sum(order.dispatches, ({ quantity, back }) => quantity - back);

    const send = async () => {
      const order = any();
      const many = Math.min(1 + upTo(3), order.quantity - Number(sent(order)));
      if (many === 0) return;
      await owner.get(picking.pick, { body: { orderId: order.id, lines: [{ lineId: order.lineId, binId: bins[0] as number, quantity: String(many) }] } });
      await owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: String(many) }] } });
      const cost = share(pool.value, BigInt(many), pool.quantity);
      pool.quantity -= BigInt(many);
      pool.value -= cost;
      order.dispatches.push({ quantity: BigInt(many), cost, back: 0n, backCost: 0n });
    };
    const comeBack = async () => {
      const order = any();
      const many = kept(order) === 0n ? 0n : 1n + BigInt(upTo(Number(kept(order))));
      const isScrap = chance.roll() < 0.25;
      const line = { salesLineId: order.lineId, itemId, quantity: String(many === 0n ? 1n : many), reasonId };
      const where = isScrap ? { condition: 'scrap' as const, binId: null } : { condition: 'shelf' as const, binId: bins[0] as number };
      const answer = await owner.ask(contract.createReturn, { body: { customerId, siteId, cameOn: today, lines: [{ ...line, ...where }] } });
      expect([order.number, answer.status]).toEqual([order.number, many === 0n ? 409 : 200]);
      if (many === 0n) return;
      let left = many;
      const parts: Back['parts'] = [];
      for (const of of order.dispatches) {
        const quantity = left < of.quantity - of.back ? left : of.quantity - of.back;
        if (quantity === 0n) continue;
        const value = share(of.cost, of.back + quantity, of.quantity) - of.backCost;
        parts.push({ of, quantity, value });
        of.back += quantity;
        of.backCost += value;
        left -= quantity;
      }
      const worth = sum(parts, ({ value }) => value);
      if (isScrap) scrapped += worth;
      else {
        pool.quantity += many;
        pool.value += worth;
      }
      returns.push({ movementId: answer.data.movementId as number, order: orders.indexOf(order), parts, isScrap });
    };
    const undo = async () => {
      const at = upTo(returns.length);
      const one = returns[at];
      if (!one) return;
      const answer = await owner.ask(stock.undo, { body: { movementId: one.movementId } });
      expect([answer.status, answer.problem.title]).toEqual([200, undefined]);
      returns.splice(at, 1);
      const worth = sum(one.parts, ({ value }) => value);
      for (const { of, quantity, value } of one.parts) {
        of.back -= quantity;
        of.backCost -= value;
      }
      if (one.isScrap) scrapped -= worth;
      else {
        pool.quantity -= sum(one.parts, ({ quantity }) => quantity);
        pool.value -= worth;
      }
    };
    const invoice = async () => {
      const order = any();
      const { rows } = await owner.get(invoices.listToInvoice, { query: { q: order.number } });
      const open = kept(order) - order.invoiced;
      expect([order.number, rows.length]).toEqual([order.number, open > 0n ? 1 : 0]);
      if (open <= 0n || !rows[0]) return;
      const made = await owner.get(invoices.createInvoice, {
        body: { dispatches: rows[0].dispatches.map(({ orderId, movementId }) => ({ orderId, movementId })), invoicedOn: today },
      });
      const net = share(order.total, order.invoiced + open, BigInt(order.quantity)) - order.asked;
      expect([cents(rows[0].amount), cents(made.net)]).toEqual([net, net]);
      order.invoiced += open;
      order.asked += net;
    };
    /** Everything that is to be credited, as the returns say. */
    const credit = async () => {
      const { rows } = await owner.get(contract.listReturns, { query: { show: 'to credit', limit: 200 } });
      const over = new Set(orders.filter((order) => order.invoiced > kept(order)).map(({ number }) => number));
      expect(new Set(rows.map((row) => row.orders))).toEqual(over);
      for (const { id } of rows) {
        const { toCredit } = await owner.get(contract.getReturn, { params: { id } });
        for (const { invoiceId, lines } of toCredit) {
          const made = await owner.get(invoices.creditInvoice, {
            params: { id: invoiceId },
            body: { invoicedOn: today, lines: lines.map(({ lineId, quantity }) => ({ lineId, quantity, amount: null })) },
          });
          const order = orders.find(({ number }) => rows.find((row) => row.id === id)?.orders === number);
          if (!order) throw new Error('the return is of an order');
          order.invoiced -= sum(lines, ({ quantity }) => BigInt(quantity));
          order.asked -= cents(made.net);
        }
      }
      for (const order of orders) expect(order.invoiced <= kept(order)).toBe(true);
    };

    const turns = [send, send, send, comeBack, comeBack, undo, invoice, invoice, credit];
    for (let n = 0; n < 110; n += 1) {
      await (turns[upTo(turns.length)] as () => Promise<void>)();
      if (n % 10 !== 9) continue;
      const cost = sum(orders, ({ dispatches }) => sum(dispatches, (one) => one.cost - one.backCost));
      const asked = sum(orders, (order) => order.asked);
      expect([await account('1200'), await account('5000'), await account('5110'), await account('4000')]).toEqual([pool.value, cost, scrapped, -asked]);
    }
    expect([returns.length > 3, scrapped > 0n, orders.some(({ invoiced }) => invoiced > 0n)]).toEqual([true, true, true]);
    const { sites } = await owner.get(stock.itemStock, { params: { id: itemId } });
    expect(sites.find((site) => site.siteId === siteId)?.onHand).toBe(String(pool.quantity));
    const held = (await owner.get(contract.listHeld, { query: { customerId } })).rows;
    for (const order of orders) expect(held.find(({ orderId }) => orderId === order.id)?.held ?? '0').toBe(String(kept(order)));
    // What was sold and what it cost, in every way of adding up: less what came back.
    const sold = await owner.get(margin.listMargin, { query: { by: 'order' } });
    for (const order of orders)
      expect([order.number, cents(sold.rows.find(({ name }) => name === order.number)?.sold ?? '0')]).toEqual([
        order.number,
        share(order.total, kept(order), BigInt(order.quantity)),
      ]);
    expect(await business.broken()).toEqual([]);
    await business.close();
  },
);
