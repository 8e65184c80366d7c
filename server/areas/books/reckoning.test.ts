import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import type { Asked, Endpoint, ResponseOf } from '@larder/contract/endpoint';
import * as inbound from '@larder/contract/inbound';
import * as landed from '@larder/contract/landed';
import * as receiving from '@larder/contract/receiving';
import * as stock from '@larder/contract/stock';
import { dice } from '../../demo/dice';
import { openBusiness, type Business } from '../../testing/business';
import { amountOf, companyOf, rateOf } from '../../testing/fraction';
import { Reckoning, type Item, type Line, type Method, type Receipt } from '../../testing/reckoning';

/** A bill or credit as it was entered, with what it owes and what was paid. */
interface Entered {
  id: number;
  total: number;
  owed: number;
  paid: number;
  settled: number;
  credit: boolean;
  undo: () => void;
}
interface Sheet {
  id: number;
  amount: number;
  movementId: number;
  change: (to: number) => void;
  undo: () => void;
}

const methods: readonly Method[] = ['average', 'fifo', 'specific'];
const currencies = [
  { currency: 'GBP', rate: '1' },
  { currency: 'EUR', rate: '0.85' },
];
const text = (cents: number): string => (cents / 100).toFixed(2);
const mils = (price: number): string => (price / 1000).toFixed(3);

/**
 * Trade as the dice fall: part receipts, returns, bills at other prices, credits, worksheets and payments, changed and undone in any order that is allowed.
 * After every step pools, accounts and what is open are what an independent reckoning in exact fractions says.
 */
describe.each([3, 17, 58])('to the cent, whatever comes and goes: the dice of %i', (seed) => {
  const chance = dice(seed);
  const mind = new Reckoning();
  let business: Business;
  let step = 0;
  let serials = 0;
  let references = 0;
  const items: Item[] = [];
  const lines: (Line & { orderId: number; price: number; currency: string })[] = [];
  const movements: { id: number; undo: () => void }[] = [];
  const deliveries: { id: number; receipts: Receipt[] }[] = [];
  const entered: Entered[] = [];
  const payments: { billId: number; id: number; undo: () => void }[] = [];
  const sheets: Sheet[] = [];
  const done = new Map<string, number>();

  beforeAll(async () => {
    business = await openBusiness();
    for (const [index, method] of methods.entries()) {
      const tracking = method === 'specific' ? ('serial' as const) : ('none' as const);
      items.push({ id: await business.item(`RK-${index}`, { costMethod: method, tracking }), method, quantity: 0, value: 0 });
    }
  });
  afterAll(() => business.close());

  const some = <T>(list: readonly T[]): T | undefined => (list.length === 0 ? undefined : chance.pick(list));
  /** Asks for what may be refused in words; null then. */
  async function ask<E extends Endpoint>(endpoint: E, asked: Asked<E>): Promise<ResponseOf<E> | null> {
    const { status, data, problem } = await business.owner.ask(endpoint, asked);
    if (status >= 500) throw new Error(`${endpoint.path}: ${problem.title}`);
    if (status === 200) done.set(endpoint.path, (done.get(endpoint.path) ?? 0) + 1);
    return status === 200 ? data : null;
  }
  const lotOf = async (item: Item, code: string) => {
    const { rows } = await business.pool.query<{ id: number }>('SELECT id FROM lot WHERE item_id = $1 AND code = $2', [item.id, code]);
    return rows[0]?.id ?? null;
  };
  const binId = () => business.bins[0] as number;
  const held = (item: Item) => mind.receipts.filter(({ line, serial, layer }) => line.item === item && serial !== null && layer.quantity > 0);

  const actions: Record<string, () => Promise<void>> = {
    order: async () => {
      const { supplierId, siteId } = business;
      const { currency, rate } = chance.pick(currencies);
      const chosen = items.filter(() => chance.roll() < 0.5).map((item) => ({ item, quantity: chance.between(2, 7), price: chance.between(901, 9999) }));
      if (chosen.length === 0) return;
      const body = {
        supplierId,
        siteId,
        currency,
        rate,
        lines: chosen.map(({ item, quantity, price }) => ({ itemId: item.id, quantity: String(quantity), price: mils(price) })),
      };
      const draft = await business.owner.get(inbound.createPurchase, { body });
      const order = await business.owner.get(inbound.decidePurchase, { params: { id: draft.id }, body: { decision: 'place', version: draft.version } });
      chosen.forEach(({ item, quantity, price }, at) =>
        lines.push({
          ...{
            id: order.lines[at]?.id as number,
            item,
            ordered: quantity,
            amount: companyOf(amountOf([{ quantity, price }]), rateOf(rate)),
            receipts: [],
            bills: [],
            credits: [],
          },
          ...{ received: { quantity: 0, value: 0 }, billed: { quantity: 0, value: 0 }, orderId: order.id, price, currency },
        }),
      );
    },
    receive: async () => {
      const first = some(lines);
      if (!first) return;
      const together = lines.filter(({ orderId }) => orderId === first.orderId).filter((line) => line === first || chance.roll() < 0.6);
      const asked = together.map((line) => {
        const quantity = chance.between(1, Math.max(1, Math.ceil(line.ordered / 2)));
        return { line, quantity, serials: line.item.method === 'specific' ? Array.from({ length: quantity }, () => `R-${(serials += 1)}`) : [] };
      });
      const body = {
        lines: asked.map(({ line, quantity, serials: codes }) => ({
          lineId: line.id,
          quantity: String(quantity),
          extra: String(quantity),
          binId: binId(),
          lots: codes.map((code) => ({ code })),
        })),
      };
      const posted = await ask(receiving.receive, { body });
      if (!posted) return;
      const came = asked.map(({ line, quantity, serials: codes }) => mind.receive(line, quantity, codes));
      const id = posted.movementId as number;
      deliveries.push({ id, receipts: came.flatMap(({ receipts }) => receipts) });
      movements.push({ id, undo: () => [...came].reverse().forEach(({ undo }) => undo()) });
    },
    lose: async () => {
      const item = some(items.filter(({ quantity }) => quantity > 0));
      if (!item) return;
      const serial = item.method === 'specific' ? (some(held(item))?.serial ?? null) : null;
      const quantity = serial ? 1 : chance.between(1, Math.min(4, item.quantity));
      const line = { itemId: item.id, binId: binId(), lotId: serial === null ? null : await lotOf(item, serial), quantity: `-${quantity}` };
      const posted = await ask(stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [line] } });
      if (posted) movements.push({ id: posted.movementId as number, undo: mind.lose(item, quantity, serial) });
    },
    sendBack: async () => {
      const line = some(lines.filter(({ received, item }) => received.quantity > 0 && item.quantity > 0));
      if (!line) return;
      const serial = line.item.method === 'specific' ? (some(held(line.item).filter((one) => one.line === line))?.serial ?? null) : null;
      if (line.item.method === 'specific' && serial === null) return;
      const quantity = serial ? 1 : chance.between(1, Math.min(3, line.received.quantity));
      const lotId = serial === null ? null : await lotOf(line.item, serial);
      const body = {
        orderId: line.orderId,
        note: 'cracked',
        then: chance.pick(['replaced', 'credited'] as const),
        lines: [{ purchaseLineId: line.id, binId: binId(), lotId, quantity: String(quantity) }],
      };
      const posted = await ask(receiving.returnGoods, { body });
      if (posted) movements.push({ id: posted.movementId as number, undo: mind.sendBack(line, quantity, serial) });
    },
    bill: async () => {
      const line = some(lines.filter(({ received, billed }) => received.quantity > billed.quantity));
      if (!line) return;
      const quantity = chance.between(1, line.received.quantity - line.billed.quantity);
      await enter(line, quantity, Math.max(1, line.price + chance.between(-400, 600)), false);
    },
    billAll: async () => {
      const line = some(lines.filter(({ received, billed }) => received.quantity > billed.quantity));
      if (line) await enter(line, line.received.quantity - line.billed.quantity, line.price, false);
    },
    creditGoods: async () => {
      const line = some(lines.filter(({ received, billed }) => billed.quantity > received.quantity));
      if (line) await enter(line, chance.between(1, line.billed.quantity - line.received.quantity), Math.max(1, line.price + chance.between(-90, 90)), true);
    },
    creditAmount: async () => {
      const line = some(lines.filter(({ received }) => received.quantity > 0));
      if (!line) return;
      const amount = chance.between(1, 700);
      const made = await ask(bills.createBill, {
        body: { ...paper(), kind: 'credit', lines: [{ kind: 'credit', purchaseLineId: line.id, amount: text(amount) }] },
      });
      if (made) entered.push({ id: made.id as number, total: amount, paid: 0, settled: 0, credit: true, ...mind.credit(line, amount) });
    },
    charge: async () => {
      const delivery = some(deliveries);
      if (!delivery) return;
      const by = chance.pick(['quantity', 'value'] as const);
      const amount = chance.between(1, 900);
      const made = await ask(landed.createSheet, { body: { movementIds: [delivery.id], charges: [{ name: 'Freight', by, amount: text(amount) }] } });
      if (made) sheets.push({ id: made.id as number, amount, movementId: delivery.id, ...mind.charge(delivery.receipts, by, amount) });
    },
    recharge: async () => {
      const sheet = some(sheets);
      if (!sheet) return;
      const { version, charges } = await business.owner.get(landed.getSheet, { params: { id: sheet.id } });
      const charge = charges[0];
      if (!charge) return;
      const to = chance.between(1, 900);
      const body = { movementIds: [sheet.movementId], version, charges: [{ id: charge.id, name: charge.name, by: charge.by, amount: text(to) }] };
      if (await ask(landed.editSheet, { params: { id: sheet.id }, body })) sheet.change(to);
    },
    pay: async () => {
      const bill = some(entered.filter(({ paid, total }) => paid < total));
      if (!bill) return;
      const amount = chance.roll() < 0.4 ? bill.total - bill.paid : chance.between(1, bill.total - bill.paid);
      if (!(await ask(bills.pay, { params: { id: bill.id }, body: { paidOn: '2026-03-10', amount: text(amount) } }))) return;
      const known = await business.owner.get(bills.getBill, { params: { id: bill.id } });
      payments.push({ billId: bill.id, id: known.payments.at(-1)?.id as number, undo: mind.pay(bill, amount) });
    },
    undoMovement: async () => {
      const movement = some(movements);
      if (movement && (await ask(stock.undo, { body: { movementId: movement.id } }))) movement.undo();
    },
    undoBill: async () => {
      const bill = some(entered);
      if (!bill || !(await ask(bills.undoBill, { params: { id: bill.id }, body: {} }))) return;
      bill.undo();
      entered.splice(entered.indexOf(bill), 1);
    },
    undoSheet: async () => {
      const sheet = some(sheets);
      if (!sheet || !(await ask(landed.undoSheet, { params: { id: sheet.id }, body: {} }))) return;
      sheet.undo();
      sheets.splice(sheets.indexOf(sheet), 1);
    },
    undoPayment: async () => {
      const payment = some(payments);
      if (!payment || !(await ask(bills.undoPayment, { params: { id: payment.id }, body: {} }))) return;
      payment.undo();
      payments.splice(payments.indexOf(payment), 1);
    },
  };
  const often = ['order', 'receive', 'receive', 'receive', 'bill', 'bill', 'lose', 'sendBack', 'charge', 'recharge', 'undoMovement'];
  const paper = () => ({ partyId: business.supplierId, reference: `K-${(references += 1)}`, billedOn: '2026-03-10' });

  /** Enters a bill or credit for goods at a price in tenths of a cent, in the line's currency. */
  async function enter(line: (typeof lines)[number], quantity: number, price: number, credit: boolean): Promise<void> {
    const { currency, rate } = currencies.find((one) => one.currency === line.currency) as (typeof currencies)[number];
    const goods = { kind: 'goods' as const, purchaseLineId: line.id, quantity: String(quantity), price: mils(price) };
    const made = await ask(bills.createBill, { body: { ...paper(), kind: credit ? 'credit' : 'bill', currency, rate, lines: [goods] } });
    if (made) entered.push({ id: made.id as number, paid: 0, settled: 0, credit, ...mind.bill(line, quantity, price, rateOf(rate), credit) });
  }

  /** What the product says, beside what the reckoning says. */
  async function both(): Promise<[unknown, unknown]> {
    const cents = (amount: string | null) => Math.round(Number(amount ?? 0) * 100);
    const pools = await business.pool.query<{ id: number; quantity: string; value: string }>(
      'SELECT item_id AS id, quantity, value FROM pool ORDER BY item_id',
    );
    // All the trade is at one site: what it has is worth what the company has.
    const here = await business.pool.query<{ id: number; value: string }>(
      'SELECT item_id AS id, value FROM item_site WHERE site_id = $1 AND value <> 0 ORDER BY 1',
      [business.siteId],
    );
    const books = await business.pool.query<{ purpose: string; amount: string }>(
      'SELECT a.purpose, sum(j.amount) AS amount FROM journal_line j JOIN account a ON a.id = j.account_id GROUP BY 1 HAVING sum(j.amount) <> 0',
    );
    const open = await business.pool.query<{ id: number; open: string }>(
      'SELECT id, received_value - billed_value AS open FROM purchase_line WHERE received_value <> billed_value ORDER BY id',
    );
    const owed = await business.pool.query<{ id: number; owed: string }>(
      'SELECT b.id, b.owed - coalesce((SELECT sum(settled) FROM payment p WHERE p.bill_id = b.id AND p.undone_at IS NULL), 0) AS owed FROM bill b WHERE b.undone_at IS NULL ORDER BY b.id',
    );
    const sorted = (entries: (readonly [string, number])[]) => entries.filter(([, amount]) => amount !== 0).sort(([a], [b]) => a.localeCompare(b));
    return [
      {
        here: here.rows.map(({ id, value }) => [id, cents(value)]),
        pools: pools.rows.map(({ id, quantity, value }) => [id, Number(quantity), cents(value)]),
        accounts: sorted(books.rows.map(({ purpose, amount }) => [purpose, cents(amount)] as const)),
        open: open.rows.map((row) => [row.id, cents(row.open)]),
        owed: owed.rows.map((row) => [row.id, cents(row.owed)]),
      },
      {
        here: items.filter(({ value }) => value !== 0).map(({ id, value }) => [id, value]),
        pools: items.map(({ id, quantity, value }) => [id, quantity, value]),
        accounts: sorted(Object.entries(mind.accounts)),
        open: lines
          .flatMap(({ id, received, billed }) => (received.value === billed.value ? [] : [[id, received.value - billed.value]]))
          .sort(([a = 0], [b = 0]) => a - b),
        owed: entered.map(({ id, owed, settled }) => [id, owed - settled]).sort(([a = 0], [b = 0]) => a - b),
      },
    ];
  }

  test('pools, accounts and what is open agree after every step, and the laws hold', async () => {
    for (step = 1; step <= 150; step += 1) {
      const name = chance.pick([...Object.keys(actions), ...often]);
      await (actions[name] as () => Promise<void>)();
      const [product, reckoned] = await both();
      expect({ step, name, ...(product as object) }).toEqual({ step, name, ...(reckoned as object) });
    }
    expect(await business.broken()).toEqual([]);
    expect(done.size).toBeGreaterThan(9);
  });
});
