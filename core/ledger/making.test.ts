import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { CostMethodName, LayerMove } from '../costing/method';
import { decimal, sum, zero, type Decimal } from '../decimal';
import { plan } from './plan';
import { reversalOf, type PostedMovement } from './reversal';
import {
  balanceKey,
  siteKey,
  type Charged,
  type ItemState,
  type LedgerState,
  type Movement,
  type MovementLine,
  type Place,
  type Plan,
  type WorkMoved,
} from './types';

/** A workshop: two parts and what is made of them, a bin, what is in work, and what is made. */
const [bin, inWork, made, opening] = [1, 2, 3, 4] as const;
const [board, screw, hive] = [11, 12, 13] as const;
const lineOf = { [board]: 101, [screw]: 102, [hive]: 201 } as const;
const [stock, wip, variance, labour] = [1, 20, 21, 50] as const;
const place = (id: number, kind: Place['kind'], siteId: number | null): Place => ({ id, kind, siteId, code: kind, sellable: kind === 'bin', retired: false });
const item = (id: number, costMethod: CostMethodName, tracking: ItemState['tracking'] = 'none'): ItemState => ({
  id,
  sku: `I-${id}`,
  name: '',
  unit: 'each',
  stocked: true,
  tracking,
  costMethod,
  pool: { quantity: zero, value: zero },
  layers: [],
  lastSeq: 0,
  lastHeld: null,
  purchasePrice: null,
  inventoryAccount: stock,
  costAccount: 3,
});
const counters = (label: string) => ({ label, arrived: zero, drawn: zero, gone: zero, finished: zero, open: zero });
const empty = (methods: readonly CostMethodName[] = ['average', 'average', 'average']): LedgerState => ({
  today: '2026-11-23',
  closedThrough: null,
  places: new Map([place(bin, 'bin', 1), place(inWork, 'in-work', 1), place(made, 'made', null), place(opening, 'opening', null)].map((one) => [one.id, one])),
  items: new Map([board, screw, hive].map((id, index) => [id, item(id, methods[index] ?? 'average')])),
  balances: new Map(),
  lowestSince: new Map(),
  sites: new Map([board, screw, hive].map((itemId) => [siteKey(itemId, 1), { itemId, siteId: 1, siteName: 'Barn', onHand: zero, bench: zero, demand: [] }])),
  pastUse: new Set(),
  lotKinds: new Map(),
  counted: new Map(),
  documents: new Map([
    [101, counters('WO-1 line 1')],
    [102, counters('WO-1 line 2')],
    [201, counters('WO-1 line 3')],
  ]),
  accounts: {
    inventory: stock,
    grni: 2,
    'cost-of-sales': 3,
    'cost-variance': 4,
    opening: 5,
    'stock-differences': 6,
    'own-use': 7,
    'own-use-tax': 97,
    'purchases-paid': 8,
    'price-variance': 99,
    'credits-expected': 98,
    'work-in-progress': wip,
    'making-variance': variance,
  },
  reasonAccount: null,
});

/** So much labour, said as one piece. */
const worked = (amount: Decimal): Charged => ({ accountId: labour, name: 'Workshop', per: 'piece', quantity: decimal(1), rate: amount, amount });
const order = { orderId: 1, carried: null, toCome: zero };
const movement = (lines: readonly MovementLine[], work?: WorkMoved): Movement => ({
  kind: 'making',
  effectiveOn: '2026-11-23',
  lines,
  reasonId: null,
  reversesId: null,
  note: '',
  ...(work ? { work } : {}),
});
const line = (
  itemId: number,
  from: number,
  to: number,
  quantity: Decimal,
  valuation: MovementLine['valuation'],
  serves: MovementLine['serves'] = [],
): MovementLine => ({
  itemId,
  lotId: null,
  quantity,
  fromPlaceId: from,
  toPlaceId: to,
  valuation,
  serves,
  field: 'lines',
});
const opened = (state: LedgerState, itemId: number, quantity: string, value: string): LedgerState =>
  plan({ ...movement([line(itemId, opening, bin, decimal(quantity), { by: 'stated', value: decimal(value) })]), kind: 'opening' }, state).after;
const component = (itemId: keyof typeof lineOf) => [{ kind: 'component' as const, lineId: lineOf[itemId] }];
const product = [{ kind: 'product' as const, lineId: lineOf[hive] }];
const taken = (state: LedgerState, itemId: typeof board | typeof screw, many: Decimal): LedgerState =>
  plan({ ...movement([line(itemId, bin, inWork, many, { by: 'current' }, component(itemId))]), kind: 'pick' }, state).after;
const used = (itemId: typeof board | typeof screw, many: Decimal) => line(itemId, inWork, made, many, { by: 'current' }, component(itemId));
const output = (many: Decimal, part: Decimal, whole: Decimal) => line(hive, made, bin, many, { by: 'work', part, whole }, product);

/** What is on an account of all these, debits above zero. */
const on = (account: number, plans: readonly Plan[]): string =>
  sum(plans.flatMap(({ journal }) => journal.filter(({ accountId }) => accountId === account).map(({ amount }) => amount))).toFixed(2);
const valueOf = ({ lines }: Plan, itemId: number): string[] => lines.filter((one) => one.itemId === itemId).map(({ value }) => value.toFixed(2));
const posted = (id: number, { kind }: Movement, { lines, work }: Plan, before: Decimal, charges: WorkMoved['charges']): PostedMovement => ({
  id,
  kind,
  reasonId: null,
  lines,
  work: { ...order, before, charges, variance: work?.variance ?? zero },
});

describe('what is made', () => {
  test('is worth what was used for it and what the work cost; three of 10.00 are 3.33, 3.34 and 3.33', () => {
    let state = taken(opened(empty(), board, '5', '8.00'), board, decimal(5));
    let before = zero;
    const plans: Plan[] = [];
    for (const left of [3, 2, 1]) {
      const first = left === 3;
      const work = { ...order, before, charges: first ? [worked(decimal(2))] : [], ends: left === 1 };
      const done = plan(movement([...(first ? [used(board, decimal(5))] : []), output(decimal(1), decimal(1), decimal(left))], work), state);
      plans.push(done);
      [state, before] = [done.after, done.work?.after ?? zero];
    }
    expect(plans.flatMap((one) => valueOf(one, hive))).toEqual(['3.33', '3.34', '3.33']);
    expect([before.toFixed(2), on(wip, plans), on(labour, plans), on(variance, plans), on(stock, plans)]).toEqual(['0.00', '0.00', '-2.00', '0.00', '2.00']);
    expect(state.items.get(hive)?.pool).toEqual({ quantity: decimal(3), value: decimal(10) });
    expect(state.documents.get(101)?.finished.toFixed()).toBe('5');
    expect(state.documents.get(201)?.arrived.toFixed()).toBe('3');
  });

  test('what is used part by part makes each bear its own, and what was used before its time waits for the others', () => {
    const state = taken(opened(empty(), board, '10', '20.00'), board, decimal(10));
    const record = (boards: number, toCome: string) =>
      plan(
        movement([used(board, decimal(boards)), output(decimal(2), decimal(2), decimal(5))], {
          ...order,
          toCome: decimal(toCome),
          before: zero,
          charges: [],
          ends: false,
        }),
        state,
      );
    // Two boards each: four are used for the two that are done, or all ten at once, or only three.
    expect([4, 10, 3].map((boards) => valueOf(record(boards, String(20 - 2 * boards)), hive))).toEqual([['8.00'], ['8.00'], ['6.00']]);
    expect(record(10, '0').work?.after.toFixed(2)).toBe('12.00');
  });

  test('unit by unit of one record, shares the cost to the cent', () => {
    const state = taken(opened(empty(), board, '5', '10.00'), board, decimal(5));
    const units = [1, 1, 1].map(() => output(decimal(1), decimal(1), decimal(3)));
    const done = plan(movement([used(board, decimal(5)), ...units], { ...order, before: zero, charges: [], ends: true }), state);
    expect(valueOf(done, hive)).toEqual(['3.33', '3.34', '3.33']);
    expect(done.work?.after.toFixed(2)).toBe('0.00');
  });

  test('what is recorded once nothing more comes, or finds no output, is making variance', () => {
    let state = taken(opened(empty(), board, '6', '12.00'), board, decimal(6));
    const first = plan(
      movement([used(board, decimal(5)), output(decimal(2), decimal(1), decimal(1))], { ...order, before: zero, charges: [], ends: true }),
      state,
    );
    state = first.after;
    const late = plan(
      movement([used(board, decimal(1))], { ...order, before: first.work?.after ?? zero, charges: [worked(decimal('1.50'))], ends: true }),
      state,
    );
    expect(valueOf(first, hive)).toEqual(['10.00']);
    expect([on(variance, [first, late]), on(wip, [first, late]), late.work?.variance.toFixed(2)]).toEqual(['3.50', '0.00', '3.50']);
  });

  test('what only goes to the work and comes back moves no value', () => {
    const state = opened(empty(), board, '5', '10.00');
    const there = plan({ ...movement([line(board, bin, inWork, decimal(4), { by: 'current' }, component(board))]), kind: 'pick' }, state);
    const back = plan({ ...movement([line(board, inWork, bin, decimal(1), { by: 'current' }, component(board))]), kind: 'pick' }, there.after);
    expect([...there.journal, ...back.journal]).toEqual([]);
    expect(back.after.documents.get(101)?.drawn.toFixed()).toBe('3');
    expect(back.after.balances.get(balanceKey(board, null, inWork))?.toFixed()).toBe('3');
    expect(() => plan(movement([used(board, decimal(4))], { ...order, before: zero, charges: [], ends: false }), back.after)).toThrow(
      'Only 3 of WO-1 line 1 are in work.',
    );
  });

  test('an undo turns round what was posted, charges and variance too; it is refused once what was made has left', () => {
    const state = taken(opened(empty(), board, '5', '10.00'), board, decimal(5));
    const charges = [worked(decimal('0.55'))];
    const record = movement([used(board, decimal(4)), output(decimal(1), decimal(1), decimal(2))], { ...order, before: zero, charges, ends: true });
    const done = plan(record, state);
    const undo = reversalOf(posted(9, record, done, done.work?.after ?? zero, charges), '2026-11-23', '');
    const undone = plan(undo, done.after);
    expect([on(stock, [done, undone]), on(wip, [done, undone]), on(labour, [done, undone]), on(variance, [done, undone])]).toEqual([
      '0.00',
      '0.00',
      '0.00',
      '0.00',
    ]);
    expect(undone.work?.after.toFixed(2)).toBe('0.00');
    expect(undone.after.items.get(board)?.pool).toEqual(state.items.get(board)?.pool);
    expect(undone.after.items.get(hive)?.pool).toEqual({ quantity: zero, value: zero });
    const sold = plan({ ...movement([line(hive, bin, opening, decimal(1), { by: 'current' })]), kind: 'correction' }, done.after).after;
    expect(() => plan(undo, sold)).toThrow('cannot be undone');
  });
});

/** One thing done at the work: so much taken, used and made, so much charged; or the last record undone. */
const deed = fc.oneof(
  fc.record({ does: fc.constant('take' as const), itemId: fc.constantFrom(board, screw), many: fc.integer({ min: 1, max: 9 }) }),
  fc.record({
    does: fc.constant('record' as const),
    boards: fc.integer({ min: 0, max: 6 }),
    screws: fc.integer({ min: 0, max: 6 }),
    made: fc.integer({ min: 0, max: 4 }),
    cents: fc.integer({ min: 0, max: 999 }),
    ends: fc.boolean(),
  }),
  fc.record({ does: fc.constant('undo' as const) }),
);

test('used and charged is always made, in progress or variance, whatever is recorded, undone and begun again, however cost is kept', () => {
  const method = fc.constantFrom<CostMethodName>('average', 'fifo');
  fc.assert(
    fc.property(fc.tuple(method, method, method), fc.array(deed, { maxLength: 30 }), (methods, deeds) => {
      let state = opened(opened(opened(opened(empty(methods), board, '30', '100.00'), screw, '40', '3.33'), board, '7', '19.99'), screw, '11', '8.88');
      const begun = sum([...state.items.values()].map(({ pool }) => pool.value));
      const plans: Plan[] = [];
      const records: { movement: Movement; plan: Plan; charges: WorkMoved['charges'] }[] = [];
      let before = zero;
      let [open, goal] = [true, 10];
      for (const one of deeds) {
        if (one.does === 'take') {
          const there = state.balances.get(balanceKey(one.itemId, null, bin)) ?? zero;
          if (there.gte(one.many)) state = taken(state, one.itemId, decimal(one.many));
          continue;
        }
        if (one.does === 'undo') {
          const last = records.pop();
          if (!last) continue;
          const undone = plan(reversalOf(posted(1, last.movement, last.plan, before, last.charges), '2026-11-23', ''), state);
          plans.push(undone);
          [state, before] = [undone.after, undone.work?.after ?? zero];
          open = true;
          goal = 10;
          continue;
        }
        const atWork = (itemId: number) => state.balances.get(balanceKey(itemId, null, inWork)) ?? zero;
        const lines: MovementLine[] = [];
        if (one.boards > 0 && atWork(board).gte(one.boards)) lines.push(used(board, decimal(one.boards)));
        if (one.screws > 0 && atWork(screw).gte(one.screws)) lines.push(used(screw, decimal(one.screws)));
        const ends = open ? one.ends : true;
        if (open && one.made > 0) lines.push(output(decimal(one.made), decimal(one.made), decimal(ends ? one.made : Math.max(goal, one.made) + 1)));
        if (lines.length === 0) continue;
        const charges = one.cents > 0 ? [worked(decimal(one.cents).div(100))] : [];
        const record = movement(lines, { ...order, before, charges, ends });
        const done = plan(record, state);
        plans.push(done);
        records.push({ movement: record, plan: done, charges });
        [state, before] = [done.after, done.work?.after ?? zero];
        goal -= one.made;
        open &&= !ends;
        if (ends) expect(before.toFixed(2)).toBe('0.00');
      }
      // Each account to the cent: stock is what the pools are worth, work in progress what the order says, and nothing came or went but by labour and variance.
      const pools = sum([...state.items.values()].map(({ pool }) => pool.value));
      expect(on(stock, plans)).toBe(pools.minus(begun).toFixed(2));
      expect(on(wip, plans)).toBe(before.toFixed(2));
      const all = [stock, wip, variance, labour, 4].map((account) => decimal(on(account, plans)));
      expect(sum(all).toFixed(2)).toBe('0.00');
      expect(before.gte(0)).toBe(true);
      for (const { pool, layers, costMethod } of state.items.values())
        if (costMethod === 'fifo')
          expect([sum(layers.map((layer) => layer.quantity)).toFixed(), sum(layers.map((layer) => layer.value)).toFixed(2)]).toEqual([
            pool.quantity.toFixed(),
            pool.value.toFixed(2),
          ]);
      const moves: LayerMove[] = plans.flatMap(({ lines }) => lines.flatMap(({ layerMoves }) => layerMoves));
      expect(moves.every(({ value }) => value.decimalPlaces() <= 2)).toBe(true);
    }),
    { numRuns: 200 },
  );
});

test('by serials each unit that is used takes its own cost along, and each that is made keeps what went into it; undone from the last, all is as it was', () => {
  const cents = fc.integer({ min: 0, max: 5000 });
  // Of each unit that is made: what the units had cost that went into it, and what the work cost.
  const unit = fc.record({ parts: fc.array(cents, { minLength: 1, maxLength: 4 }), work: cents });
  fc.assert(
    fc.property(fc.array(unit, { minLength: 1, maxLength: 6 }), (units) => {
      const first = empty(['specific', 'average', 'specific']);
      const kept = [board, hive].map((id) => [id, item(id, 'specific', 'serial')] as const);
      let state: LedgerState = { ...first, items: new Map([...first.items, ...kept]) };
      const serial = (nth: number, part: number) => 1000 + nth * 10 + part;
      for (const [nth, { parts }] of units.entries())
        for (const [part, value] of parts.entries()) {
          const came = { ...line(board, opening, bin, decimal(1), { by: 'stated', value: decimal(value).div(100) }), lotId: serial(nth, part) };
          state = plan({ ...movement([came]), kind: 'opening' }, state).after;
          const there = { ...line(board, bin, inWork, decimal(1), { by: 'current' }, component(board)), lotId: serial(nth, part) };
          state = plan({ ...movement([there]), kind: 'pick' }, state).after;
        }
      const begun = state;
      const records: { movement: Movement; plan: Plan; charges: WorkMoved['charges'] }[] = [];
      let before = zero;
      for (const [nth, { parts, work }] of units.entries()) {
        const lines = parts.map((_, part) => ({ ...used(board, decimal(1)), lotId: serial(nth, part) }));
        const charges = work > 0 ? [worked(decimal(work).div(100))] : [];
        const record = movement([...lines, { ...output(decimal(1), decimal(1), decimal(1)), lotId: 5000 + nth }], {
          ...{ ...order, before, charges, ends: nth === units.length - 1 },
        });
        const done = plan(record, state);
        records.push({ movement: record, plan: done, charges });
        [state, before] = [done.after, done.work?.after ?? zero];
        const cost = parts.reduce((total, value) => total + value, work);
        expect(valueOf(done, hive)).toEqual([decimal(cost).div(100).toFixed(2)]);
        expect(before.toFixed(2)).toBe('0.00');
      }
      const plans = records.map((one) => one.plan);
      expect([on(wip, plans), on(variance, plans)]).toEqual(['0.00', '0.00']);
      expect(state.items.get(board)?.pool).toEqual({ quantity: zero, value: zero });
      for (const { movement: record, plan: done, charges } of records.reverse()) {
        const undone = plan(reversalOf(posted(1, record, done, before, charges), '2026-11-23', ''), state);
        [state, before] = [undone.after, undone.work?.after ?? zero];
      }
      expect(state.items.get(board)?.pool).toEqual(begun.items.get(board)?.pool);
      expect(state.items.get(hive)?.pool).toEqual({ quantity: zero, value: zero });
    }),
    { numRuns: 100 },
  );
});
