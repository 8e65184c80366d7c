import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Asked, Endpoint, ResponseOf } from '@larder/contract/endpoint';
import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import * as inbound from '@larder/contract/inbound';
import * as landed from '@larder/contract/landed';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as receiving from '@larder/contract/receiving';
import * as stock from '@larder/contract/stock';
import { decimal, sum, zero, type Decimal } from '@larder/core/decimal';
import type { CostMethodName } from '@larder/core/costing/method';
import { dice } from '../../demo/dice';
import { anyWork, inProgress, type AnyWork } from '../../testing/anyWork';
import { openBusiness, type Business } from '../../testing/business';
import { sold } from '../../testing/trade';

/** What happened so far, for the next step to go on with. */
interface World {
  items: { id: number; serial: boolean }[];
  lines: { id: number; orderId: number; itemId: number }[];
  movements: number[];
  bills: number[];
  payments: { bill: number; id: number }[];
  sheets: number[];
  serials: number;
  work: AnyWork;
}

const steps = 200;
/** What happens most where goods are traded, and where they are made. */
const often = {
  trading: ['buy', 'buy', 'buy', 'sell', 'sell', 'bill', 'bill', 'charge', 'charge', 'clear', 'planWork', 'recordWork'],
  making: [
    ...[
      'buy',
      'buy',
      'buy',
      'sell',
      'lose',
      'planWork',
      'planWork',
      'takeParts',
      'takeParts',
      'takeParts',
      'takeParts',
      'recordWork',
      'recordWork',
      'recordWork',
    ],
    ...['bringPartsBack', 'endWork', 'settleUntaken', 'takeApart', 'takeApart', 'undoMovement', 'undoMovement', 'undoMovement'],
  ],
};
const nothingMade: AnyWork = { things: [], labour: 0, orders: [], movements: [], records: 0, serials: 0 };
const methods: readonly CostMethodName[] = ['average', 'fifo', 'specific'];

/** Whatever is bought, billed, charged, sold, made, taken apart, sent back and undone, in whatever order: the books stand for what they stand for. */
describe.each([
  ['trading', 9],
  ['trading', 42],
  ['trading', 7],
  ['making', 5],
  ['making', 88],
] as const)('anything at all, mostly %s, as the dice of %i fall', (mostly, seed) => {
  const chance = dice(seed);
  let business: Business;
  const world: World = { items: [], lines: [], movements: [], bills: [], payments: [], sheets: [], serials: 0, work: nothingMade };
  const refusals = new Map<string, number>();
  beforeAll(async () => {
    business = await openBusiness();
    for (const [index, costMethod] of methods.entries()) {
      const serial = costMethod === 'specific';
      const part = { costMethod, tracking: serial ? ('serial' as const) : ('none' as const), weightKg: String(index + 1) };
      world.items.push({ id: await business.item(`ANY-${index}`, part), serial });
    }
    const [board, screw, motor] = world.items.map(({ id }) => id) as [number, number, number];
    const hive = await business.item('ANY-HIVE', { costMethod: 'average', purchasePrice: null });
    const machine = await business.item('ANY-MACHINE', { costMethod: 'specific', tracking: 'serial', purchasePrice: null });
    const labour = await business.owner.get(books.createAccount, { body: { code: '5400', name: 'Labour put into goods', type: 'expense' } });
    const parts = (...of: (readonly [number, number])[]) => of.map(([itemId, quantity]) => ({ itemId, quantity }));
    world.work = {
      ...nothingMade,
      labour: labour.id,
      things: [
        { id: hive, serial: false, parts: parts([board, 2], [screw, 1]) },
        { id: machine, serial: true, parts: parts([motor, 1], [screw, 2]) },
      ],
      orders: [],
      movements: world.movements,
    };
    for (const { id, serial } of world.work.things) world.items.push({ id, serial });
    Object.assign(actions, anyWork(business, chance, world.work, attempt));
  });
  afterAll(() => business.close());

  /** Asks for what may be refused in words, but never goes wrong. */
  async function attempt<E extends Endpoint>(endpoint: E, asked: Asked<E>): Promise<ResponseOf<E> | null> {
    const foreseen = endpoint.posts ? await business.owner.ask(endpoint, asked, { preview: true }) : null;
    const { status, data, problem } = await business.owner.ask(endpoint, asked);
    if (status >= 500) throw new Error(`${endpoint.path}: ${problem.title}`);
    if (foreseen) expect([endpoint.path, foreseen.status]).toEqual([endpoint.path, status]);
    if (status === 200) return data;
    refusals.set(problem.type, (refusals.get(problem.type) ?? 0) + 1);
    return null;
  }
  const cents = (from: number, to: number): string => (chance.between(from, to) / 100).toFixed(2);
  const some = <T>(list: readonly T[]): T | undefined => (list.length === 0 ? undefined : chance.pick(list));

  const actions: Record<string, () => Promise<void>> = {
    buy: async () => {
      const { supplierId, siteId, bins } = business;
      // What is made is not bought.
      const chosen = world.items.slice(0, methods.length).filter(() => chance.roll() < 0.6);
      if (chosen.length === 0) return;
      const lines = chosen.map(({ id }) => ({ itemId: id, quantity: String(chance.between(2, 9)), price: cents(100, 900) }));
      const order = await business.owner.get(inbound.createPurchase, { body: { supplierId, siteId, lines } });
      await business.owner.get(inbound.decidePurchase, { params: { id: order.id }, body: { decision: 'place', version: order.version } });
      const posted = await attempt(receiving.receive, {
        body: {
          lines: order.lines.map((line, index) => {
            const quantity = String(chance.between(1, Number(line.quantity)));
            const lots = chosen[index]?.serial ? Array.from({ length: Number(quantity) }, () => ({ code: `S-${(world.serials += 1)}` })) : [];
            return { lineId: line.id, quantity, binId: bins[0] as number, lots };
          }),
        },
      });
      world.lines.push(...order.lines.map(({ id, itemId }) => ({ id, orderId: order.id, itemId })));
      if (posted?.movementId) world.movements.push(posted.movementId);
    },
    sell: async () => {
      const item = some(world.items);
      if (!item) return;
      const order = await sold(business, item.id, String(chance.between(1, 4)));
      const { rows } = await business.owner.get(picking.pickList, { params: { id: order.id } });
      if (rows.length === 0) return;
      const lines = rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
      if (!(await attempt(picking.pick, { body: { orderId: order.id, lines } }))) return;
      const quantity = sum(rows.map(({ take }) => decimal(take))).toFixed();
      const gone = await attempt(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity }] } });
      if (gone?.movementId) world.movements.push(gone.movementId);
    },
    bill: async () => {
      const { lines } = await business.owner.get(bills.billable, { query: { partyId: business.supplierId } });
      const line = some(lines.filter(({ received, billed }) => decimal(received).gt(billed)));
      if (!line) return;
      const open = decimal(line.received).minus(line.billed).toNumber();
      const price = decimal(line.price).times(chance.between(70, 140)).div(100).toDecimalPlaces(2).toFixed();
      const body = {
        partyId: business.supplierId,
        reference: `R-${chance.between(1, 9_999_999)}`,
        billedOn: '2026-03-10',
        lines: [{ kind: 'goods' as const, purchaseLineId: line.purchaseLineId, quantity: String(chance.between(1, open)), price }],
      };
      const made = await attempt(bills.createBill, { body });
      if (made?.id) world.bills.push(made.id);
    },
    credit: async () => {
      const line = some(world.lines);
      if (!line) return;
      const lines = [{ kind: 'credit' as const, purchaseLineId: line.id, amount: cents(10, 400) }];
      const body = { kind: 'credit' as const, partyId: business.supplierId, reference: `C-${chance.between(1, 9_999_999)}`, billedOn: '2026-03-10', lines };
      const made = await attempt(bills.createBill, { body });
      if (made?.id) world.bills.push(made.id);
    },
    charge: async () => {
      const movementIds = [...new Set([some(world.movements), some(world.movements)].flatMap((id) => id ?? []))];
      const charges = [
        { name: 'Freight', by: chance.pick(['quantity', 'value', 'weight'] as const), amount: cents(100, 5000) },
        { name: 'Duty', by: 'value' as const, amount: cents(50, 900), rate: '0.85', currency: 'EUR' },
      ];
      const made = await attempt(landed.createSheet, { body: { movementIds, charges } });
      if (made?.id) world.sheets.push(made.id);
    },
    recharge: async () => {
      const id = some(world.sheets);
      if (id === undefined) return;
      const sheet = await business.owner.get(landed.getSheet, { params: { id } });
      const charges = sheet.charges.map(({ id: chargeId, name, by, amount, rate, currency, leftOut }) => ({
        ...{ id: chargeId, name, by, currency, rate, leftOut },
        amount: chance.roll() < 0.6 ? cents(100, 4000) : amount,
      }));
      await attempt(landed.editSheet, { params: { id }, body: { movementIds: sheet.movementIds, version: sheet.version, charges } });
    },
    clear: async () => {
      const { rows } = await business.owner.get(landed.clearing);
      const charge = some(rows);
      if (!charge) return;
      const amount = decimal(charge.estimate).times(chance.between(40, 130)).div(100).toDecimalPlaces(2);
      if (amount.lte(0)) return;
      const lines = [{ kind: 'charge' as const, chargeId: charge.id, amount: amount.toFixed(2), final: chance.roll() < 0.5 }];
      const made = await attempt(bills.createBill, {
        body: { partyId: business.supplierId, reference: `F-${chance.between(1, 9_999_999)}`, billedOn: '2026-03-10', lines },
      });
      if (made?.id) world.bills.push(made.id);
    },
    sendBack: async () => {
      const line = some(world.lines);
      if (!line) return;
      const { rows } = await business.owner.get(receiving.returnable, { params: { id: line.orderId } });
      const row = some(rows);
      const place = row && some(row.places);
      if (!row || !place) return;
      const quantity = String(chance.between(1, Math.max(1, Number(place.quantity))));
      const lines = [{ purchaseLineId: row.purchaseLineId, binId: place.binId, lotId: place.lotId, quantity }];
      const posted = await attempt(receiving.returnGoods, {
        body: { orderId: line.orderId, note: 'wrong', then: chance.roll() < 0.5 ? 'replaced' : 'credited', lines },
      });
      if (posted?.movementId) world.movements.push(posted.movementId);
    },
    lose: async () => {
      const item = some(world.items.filter(({ serial }) => !serial));
      const lines = [{ itemId: item?.id as number, binId: business.bins[0] as number, quantity: String(chance.between(-3, 2) || 1) }];
      const posted = await attempt(stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines } });
      if (posted?.movementId) world.movements.push(posted.movementId);
    },
    pay: async () => {
      const id = some(world.bills);
      if (id === undefined) return;
      await attempt(bills.pay, { params: { id }, body: { paidOn: '2026-03-10', amount: cents(100, 2000), over: true } });
      const { payments } = await business.owner.get(bills.getBill, { params: { id } });
      world.payments.push(...payments.filter((one) => !world.payments.some((known) => known.id === one.id)).map((one) => ({ bill: id, id: one.id })));
    },
    undoMovement: async () => {
      const movementId = some(world.movements);
      if (movementId !== undefined) await attempt(stock.undo, { body: { movementId } });
    },
    undoBill: async () => {
      const id = some(world.bills);
      if (id !== undefined) await attempt(bills.undoBill, { params: { id }, body: {} });
    },
    undoPayment: async () => {
      const payment = some(world.payments);
      if (payment) await attempt(bills.undoPayment, { params: { id: payment.id }, body: {} });
    },
    undoSheet: async () => {
      const id = some(world.sheets);
      if (id !== undefined) await attempt(landed.undoSheet, { params: { id }, body: {} });
    },
  };
  test('all laws hold after every few steps, a preview says what happens, and clearing is its open estimates', async () => {
    for (let step = 0; step < steps; step += 1) {
      const name = chance.pick(mostly === 'trading' ? [...Object.keys(actions), ...often.trading] : often.making);
      await (actions[name] as () => Promise<void>)();
      if (step % 7 !== 6) continue;
      expect([step, name, await business.broken()]).toEqual([step, name, []]);
      expect(await inProgress(business, world.work.orders)).toBe((await balanceOn('work-in-progress')).toFixed(2));
      const { rows, balance } = await business.owner.get(landed.clearing);
      expect(sum(rows.map(({ open }) => decimal(open))).toFixed(2)).toBe(decimal(balance).toFixed(2));
    }
    expect(world.movements.length).toBeGreaterThan(8);
    if (mostly === 'trading') expect([world.bills.length > 2, world.sheets.length > 1]).toEqual([true, true]);
    else expect([world.work.orders.length > 10, world.work.records > 10]).toEqual([true, true]);
  });

  async function balanceOn(...purposes: string[]): Promise<Decimal> {
    const { rows } = await business.owner.get(books.listAccounts);
    return sum(rows.filter(({ purpose }) => purpose !== null && purposes.includes(purpose)).map(({ balance }) => decimal(balance)));
  }

  test('what goods cost in the end is what was billed and charged, the work put into them, and what is still open', async () => {
    const { rows } = await business.owner.get(books.listAccounts);
    const variances = ['cost-variance', 'price-variance', 'landed-variance', 'making-variance', 'exchange-difference'];
    const held = await balanceOn('inventory', 'work-in-progress', 'cost-of-sales', 'stock-differences', ...variances);
    const owedAndPaid = await balanceOn('payable', 'bank', 'grni', 'credits-expected', 'landed-clearing', 'purchase-tax', 'other-costs');
    const labour = decimal(rows.find(({ id }) => id === world.work.labour)?.balance ?? 0);
    expect(held.plus(owedAndPaid).plus(labour).eq(zero)).toBe(true);
    expect(sum(rows.map(({ balance }) => decimal(balance))).isZero()).toBe(true);
  });
});
