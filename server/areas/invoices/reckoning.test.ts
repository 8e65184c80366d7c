import { expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as contract from '@larder/contract/invoices';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import { dice } from '../../demo/dice';
import { openBusiness } from '../../testing/business';
import { stocked } from '../../testing/trade';

const invoicedOn = '2026-03-10';
/** Half away from zero, in whole numbers, whatever the signs: of `amount` the share `part` of `whole`. */
const share = (amount: bigint, part: bigint, whole: bigint): bigint => (whole === 0n ? 0n : (2n * amount * part + whole) / (2n * whole));
const cents = (text: string): bigint => BigInt(Math.round(Number(text) * 100));

interface Issued {
  id: number;
  lines: { id: number; orderLine: number; quantity: bigint; net: bigint; credited: bigint; off: bigint }[];
  tax: bigint;
  net: bigint;
  creditedNet: bigint;
  creditedTax: bigint;
  paid: bigint;
}

test('sending, invoicing, crediting, paying and undoing at random: the books come to a reckoning in whole cents, and every law holds', async () => {
  const business = await openBusiness();
  const { owner, bins, customerId, siteId } = business;
  const chance = dice(20261129);
  const pick = (from: readonly number[]): number => from[Math.floor(chance.roll() * from.length)] ?? 0;
  const itemId = await business.item('RECKONED');
  await stocked(business, itemId, '400');
  const kinds = [
    { quantity: 7, price: '9.99', per: '7', total: 999n },
    { quantity: 3, price: '10.00', per: '3', total: 1000n },
    { quantity: 11, price: '0.335', per: '1', total: 369n },
  ];
  const orders: { id: number; lineId: number; quantity: number; total: bigint; bench: number; sent: number; invoiced: bigint; asked: bigint }[] = [];
  for (let n = 0; n < 9; n += 1) {
    const kind = kinds[n % kinds.length] as (typeof kinds)[number];
    const lines = [{ itemId, quantity: String(kind.quantity), price: kind.price, pricePer: kind.per }];
    const quote = await owner.get(outbound.createSale, { body: { customerId, siteId, shipBy: '2026-03-20', lines } });
    await owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
    orders.push({ id: quote.id, lineId: quote.lines[0]?.id ?? 0, quantity: kind.quantity, total: kind.total, bench: 0, sent: 0, invoiced: 0n, asked: 0n });
  }
  const issued: Issued[] = [];
  const money: { id: number; parts: { at: number; amount: bigint }[] }[] = [];
  const refused: string[] = [];
  const open = ({ net, tax, creditedNet, creditedTax, paid }: Issued) => net + tax - creditedNet - creditedTax - paid;

  const send = async () => {
    const order = orders[pick(orders.map((_, at) => at))] as (typeof orders)[number];
    const quantity = Math.min(1 + Math.floor(chance.roll() * 3), order.quantity - order.sent);
    if (quantity === 0) return;
    const picked = Math.max(quantity - order.bench, 0);
    const lines = [{ lineId: order.lineId, binId: bins[0] as number, quantity: String(picked) }];
    if (picked > 0) await owner.get(picking.pick, { body: { orderId: order.id, lines } });
    const { movementId } = await owner.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: String(quantity) }] } });
    order.bench += picked - quantity;
    order.sent += quantity;
    if (chance.roll() < 0.15) {
      await owner.get(stock.undo, { body: { movementId: movementId as number } });
      order.sent -= quantity;
      order.bench += quantity;
    }
  };
  const invoice = async () => {
    const { rows } = await owner.get(contract.listToInvoice, { query: {} });
    const row = rows[pick(rows.map((_, at) => at))];
    const order = orders.find(({ id }) => id === row?.orderId);
    if (!row || !order) return;
    const made = await owner.get(contract.createInvoice, {
      body: { dispatches: row.dispatches.map(({ orderId, movementId }) => ({ orderId, movementId })), invoicedOn },
    });
    const quantity = BigInt(order.sent) - order.invoiced;
    const upTo = share(order.total, BigInt(order.sent), BigInt(order.quantity));
    const net = upTo - order.asked;
    order.invoiced += quantity;
    order.asked = upTo;
    const { lines } = await owner.get(contract.getInvoice, { params: { id: made.id ?? 0 } });
    const tax = share(net, 20n, 100n);
    expect([cents(row.amount), cents(made.net), cents(made.tax)]).toEqual([net, net, tax]);
    const line = { id: lines[0]?.id ?? 0, orderLine: orders.indexOf(order), quantity, net, credited: 0n, off: 0n };
    issued.push({ id: made.id ?? 0, lines: [line], net, tax, creditedNet: 0n, creditedTax: 0n, paid: 0n });
  };
  const credit = async () => {
    const one = issued[pick(issued.map((_, at) => at))];
    const [line] = one?.lines ?? [];
    if (!one || !line || line.credited === line.quantity) return;
    const many = 1n + BigInt(Math.floor(chance.roll() * Number(line.quantity - line.credited)));
    const made = await owner.get(contract.creditInvoice, {
      params: { id: one.id },
      body: { invoicedOn, lines: [{ lineId: line.id, quantity: String(many) }] },
    });
    line.credited += many;
    const upTo = share(line.net, line.credited, line.quantity);
    const taken = upTo - line.off;
    line.off = upTo;
    const tax = share(one.tax, upTo, one.net) - one.creditedTax;
    expect([cents(made.net), cents(made.tax)]).toEqual([taken, tax]);
    one.creditedNet += taken;
    one.creditedTax += tax;
    const order = orders[line.orderLine] as (typeof orders)[number];
    order.invoiced -= many;
    order.asked -= taken;
  };
  const pay = async () => {
    const some = issued.flatMap((one, at) => (open(one) !== 0n && chance.roll() < 0.5 ? [at] : [])).slice(0, 3);
    const parts = some.map((at) => {
      const left = open(issued[at] as Issued);
      return { at, amount: left < 0n ? left : chance.roll() < 0.6 ? left : left / 2n === 0n ? left : left / 2n };
    });
    if (parts.length === 0) return;
    const body = {
      paidOn: invoicedOn,
      parts: parts.map(({ at, amount }) => ({ invoiceId: issued[at]?.id ?? 0, amount: (Number(amount) / 100).toFixed(2) })),
    };
    const { moneyId } = await owner.get(contract.recordMoney, { body });
    for (const { at, amount } of parts) (issued[at] as Issued).paid += amount;
    money.push({ id: moneyId ?? 0, parts });
  };
  const takeBack = async () => {
    const at = pick(money.map((_, index) => index));
    const one = money[at];
    if (!one) return;
    const answer = await owner.ask(contract.undoMoney, { params: { id: one.id }, body: {} });
    if (answer.status !== 200) return void refused.push(answer.problem.type);
    money.splice(at, 1);
    for (const part of one.parts) (issued[part.at] as Issued).paid -= part.amount;
  };

  const turns = [send, send, invoice, invoice, credit, pay, pay, takeBack];
  for (let n = 0; n < 160; n += 1) await (turns[pick(turns.map((_, at) => at))] as () => Promise<void>)();

  const sum = (of: (one: Issued) => bigint) => issued.reduce((all, one) => all + of(one), 0n);
  const { rows } = await owner.get(books.listAccounts, {});
  const stands = (code: string) => cents(rows.find((row) => row.code === code)?.balance ?? '0');
  expect(issued.length).toBeGreaterThan(9);
  expect(sum(({ creditedNet }) => creditedNet)).toBeGreaterThan(0n);
  expect(new Set(refused)).toEqual(new Set(refused.length > 0 ? ['rests-on-it'] : []));
  expect([stands('1100'), stands('1000'), stands('4000'), stands('2200')]).toEqual([
    sum(open),
    sum(({ paid }) => paid),
    -sum(({ net, creditedNet }) => net - creditedNet),
    -sum(({ tax, creditedTax }) => tax - creditedTax),
  ]);
  const debt = await owner.get(contract.debtorsInAll, { query: {} });
  expect(cents(debt.open[0]?.amount ?? '0')).toBe(sum(open));
  expect(await business.broken()).toEqual([]);
  await business.close();
});

test('eight people invoice the same dispatches at the same moment: each is invoiced once, and the numbers have no gap', async () => {
  const business = await openBusiness();
  const { owner, bins, customerId, siteId } = business;
  const itemId = await business.item('RACED');
  await stocked(business, itemId, '40');
  const sent: { orderId: number; movementId: number }[] = [];
  for (let n = 0; n < 10; n += 1) {
    const quote = await owner.get(outbound.createSale, {
      body: { customerId, siteId, shipBy: '2026-03-20', lines: [{ itemId, quantity: '2', price: '3.33' }] },
    });
    await owner.get(outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } });
    const lineId = quote.lines[0]?.id ?? 0;
    await owner.get(picking.pick, { body: { orderId: quote.id, lines: [{ lineId, binId: bins[0] as number, quantity: '2' }] } });
    const { movementId } = await owner.get(shipping.dispatch, { body: { orderId: quote.id, lines: [{ lineId, quantity: '2' }] } });
    sent.push({ orderId: quote.id, movementId: movementId as number });
  }
  const answers = await Promise.all(
    Array.from({ length: 8 }, async () => {
      const mine: number[] = [];
      for (const one of [...sent].sort(() => Math.random() - 0.5)) {
        const { status } = await owner.ask(contract.createInvoice, { body: { dispatches: [one], invoicedOn } });
        mine.push(status);
      }
      return mine;
    }),
  );
  const all = answers.flat();
  expect(all.filter((status) => status === 200)).toHaveLength(10);
  expect(new Set(all)).toEqual(new Set([200, 409]));
  const { rows } = await owner.get(contract.listInvoices, { query: { show: 'all', limit: 200 } });
  expect(rows.map(({ number }) => Number(number.slice(4))).sort((a, b) => a - b)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
  expect(await business.broken()).toEqual([]);
  await business.close();
});
