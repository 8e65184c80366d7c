import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum, zero } from '../decimal';
import { Refusal } from '../refusal';
import { plan } from './plan';
import { reversalOf } from './reversal';
import { releaseLost, serve, reservedAnew } from './serving';
import { goodsOpen } from './goodsOpen';
import { balanceKey, isOwned, type Movement, type Plan, type ItemState, type LedgerState } from './types';
import { after, demandLine, emptyWorld, line, movement, places, receipt, refusal, stateOf, type World, told } from './world';

describe('a plan', () => {
  test('a receipt brings value in against goods received not invoiced; a loss takes it out at average cost', () => {
    const world = after(emptyWorld(), plan(receipt(42, '336.00'), stateOf(emptyWorld())));
    const loss = plan(movement([line(1, 6, 5)]), stateOf(world));
    expect(loss.lines[0]?.value.toFixed(2)).toBe('-40.00');
    expect(loss.journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [1, '-40.00'],
      [6, '40.00'],
    ]);
    expect(after(world, loss).value.toFixed(2)).toBe('296.00');
    expect(told(loss, stateOf(world)).rows.find(({ measure }) => measure === 'value')).toMatchObject({ before: '336.00', after: '296.00' });
  });
  test('what is not there cannot leave', () => {
    const refused = refusal(() => plan(movement([line(1, 6, 3)]), stateOf(emptyWorld())));
    expect(refused).toMatchObject({
      type: 'not-enough-stock',
      message: 'bin-1 holds 0 of SM-STD, not 3.',
      errors: [{ field: 'lines.0.quantity' }],
    });
    expect(refusal(() => plan(movement([line(1, 6, 3)], { kind: 'undo', reversesId: 1 }), stateOf(emptyWorld()))).message).toBe(
      'bin-1 holds 0 of SM-STD, not 3. The goods have left it since, so this cannot be undone.',
    );
  });
  test('two lines together may not take more than one alone could', () => {
    const world = after(emptyWorld(), plan(receipt(5, '10.00'), stateOf(emptyWorld())));
    expect(refusal(() => plan(movement([line(1, 6, 3), line(1, 6, 3)]), stateOf(world))).type).toBe('not-enough-stock');
  });
  test('no day in the future, none in a closed period', () => {
    const world = after(emptyWorld(), plan(receipt(5, '10.00'), stateOf(emptyWorld())));
    expect(refusal(() => plan(movement([line(1, 6, 1)], { effectiveOn: '2026-11-24' }), stateOf(world))).type).toBe('future-day');
    expect(refusal(() => plan(movement([line(1, 6, 1)], { effectiveOn: '2026-10-31' }), stateOf(world))).type).toBe('period-closed');
  });
  test('a backdated loss is refused when the bin held less on any day since', () => {
    const world = after(emptyWorld(), plan(receipt(5, '10.00'), stateOf(emptyWorld())));
    const state = { ...stateOf(world), lowestSince: new Map([[balanceKey(1, null, 1), decimal(2)]]) };
    expect(refusal(() => plan(movement([line(1, 6, 3)], { effectiveOn: '2026-11-10' }), state)).type).toBe('not-enough-then');
  });
  test('found with an empty pool comes in at the purchase price', () => {
    expect(plan(movement([line(6, 1, 4)]), stateOf(emptyWorld())).lines[0]?.value.toFixed(2)).toBe('10.00');
  });
  test('a pick uses its own reservation and may not take what is promised to another', () => {
    const world = {
      ...after(emptyWorld(), plan(receipt(6, '12.00'), stateOf(emptyWorld()))),
      demand: [demandLine(1, { reserved: decimal(4), wanted: decimal(5) }), demandLine(2, { reserved: decimal(2) })],
    };
    const pickOf = (quantity: number) => movement([line(1, 3, quantity, { serves: [{ kind: 'sales', lineId: 1 }] })], { kind: 'pick' });
    expect(plan(pickOf(4), stateOf(world)).releases.map(({ lineId, quantity }) => [lineId, quantity.toFixed()])).toEqual([[1, '-4']]);
    expect(refusal(() => plan(pickOf(5), stateOf(world))).type).toBe('promised-elsewhere');
    expect(refusal(() => plan(pickOf(6), stateOf(world))).type).toBe('more-than-wanted');
  });
  test('what is lost below reserved releases the last served, and says so', () => {
    const world = {
      ...after(emptyWorld(), plan(receipt(6, '12.00'), stateOf(emptyWorld()))),
      demand: [demandLine(1, { reserved: decimal(3), neededOn: '2026-11-24' }), demandLine(2, { reserved: decimal(3) })],
    };
    const planned = plan(movement([line(1, 6, 2)]), stateOf(world));
    expect(planned.releases.map(({ lineId, quantity }) => [lineId, quantity.toFixed()])).toEqual([[2, '-2']]);
    expect(planned.notes).toEqual(['SO-2 line 1 becomes short of 2.']);
  });
  test('what comes in serves who is short', () => {
    const world = { ...emptyWorld(), demand: [demandLine(1), demandLine(2, { promisedOn: '2026-12-01' })] };
    expect(plan(receipt(7, '14.00'), stateOf(world)).reserves.map(({ lineId, quantity }) => [lineId, quantity.toFixed()])).toEqual([
      [2, '5'],
      [1, '2'],
    ]);
  });
});

describe('what never lies here', () => {
  const things = { ...emptyWorld(), stocked: false };
  test('goods that are used as they come are cost at once, against goods received not invoiced; undone, it comes off again', () => {
    const value = { by: 'stated' as const, value: decimal('12.50') };
    const comes = plan(movement([line(4, 7, 5, { valuation: value, serves: [{ kind: 'purchase', lineId: 101 }] })], { kind: 'receipt' }), stateOf(things));
    expect(comes.lines[0]).toMatchObject({ value: zero, variance: decimal('12.50') });
    expect(comes.journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [2, '-12.50'],
      [3, '12.50'],
    ]);
    expect(told(comes, stateOf(things))).toEqual({ rows: [], notes: [], costNotes: ['12.50 for SM-STD is cost at once: none of it lies here.'] });
    const undone = plan(reversalOf({ id: 1, kind: 'receipt', reasonId: null, lines: comes.lines }, '2026-11-23', ''), stateOf(after(things, comes)));
    expect(undone.journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [2, '12.50'],
      [3, '-12.50'],
    ]);
    expect(undone.costNotes).toEqual(['12.50 for SM-STD comes off cost again.']);
  });
  test('without an order and without a bill it was paid', () => {
    const shop = plan(movement([line(4, 7, 2, { valuation: { by: 'stated', value: decimal('3.00') } })], { kind: 'receipt' }), stateOf(things));
    expect(shop.journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [8, '-3.00'],
      [3, '3.00'],
    ]);
  });
  test('it can lie in no place of ours, whichever end that is', () => {
    expect(refusal(() => plan(movement([line(4, 1, 1)]), stateOf(things)))).toMatchObject({
      type: 'not-kept',
      message: 'SM-STD is not kept in stock: it lies in no bin.',
    });
    expect(refusal(() => plan(movement([line(1, 6, 1)]), stateOf(things)))).toMatchObject({ type: 'not-kept' });
  });
});

describe('a lot past its use-by day', () => {
  const past = { ...emptyWorld(), pastUse: [9] };
  test('comes into the pool but is not on hand, and serves nobody', () => {
    const world = { ...past, demand: [demandLine(1)] };
    const comes = plan(movement([line(4, 1, 5, { lotId: 9, valuation: { by: 'stated', value: decimal(10) } })], { kind: 'receipt' }), stateOf(world));
    expect(comes.reserves).toEqual([]);
    expect(told(comes, stateOf(world)).rows.map(({ measure }) => measure)).toEqual(['value', 'unit cost']);
  });
  test('another lot of the same goods counts', () => {
    const world = { ...past, demand: [demandLine(1)] };
    const comes = plan(movement([line(4, 1, 5, { lotId: 8, valuation: { by: 'stated', value: decimal(10) } })], { kind: 'receipt' }), stateOf(world));
    expect(comes.reserves.map(({ quantity }) => quantity.toFixed())).toEqual(['5']);
    expect(told(comes, stateOf(world)).rows.find(({ measure }) => measure === 'on hand')).toMatchObject({ before: '0', after: '5' });
  });
});

describe('serving', () => {
  test('settled: what is there serves the short, what is gone is given back by the last', () => {
    const demand = [demandLine(1, { reserved: decimal(3) }), demandLine(2, { reserved: decimal(2), neededOn: '2026-11-30' })];
    const reserved = (onHand: number) => new Map(reservedAnew(decimal(onHand), demand).map((one) => [one.lineId, one.reserved.toFixed()]));
    expect([reserved(8).get(1), reserved(8).get(2)]).toEqual(['5', '3']);
    expect([reserved(5).get(1), reserved(5).get(2)]).toEqual(['3', '2']);
    expect([reserved(4).get(1), reserved(4).get(2)]).toEqual(['3', '1']);
    expect([reserved(0).get(1), reserved(0).get(2)]).toEqual(['0', '0']);
  });
  test('accepted promises first, then ship-by, then order number', () => {
    const demand = [demandLine(10), demandLine(9), demandLine(3, { neededOn: '2026-11-24' }), demandLine(4, { promisedOn: '2026-12-24' })];
    expect(serve(decimal(18), demand).map(({ lineId, reserved }) => `${lineId}:${reserved}`)).toEqual(['4:5', '3:5', '9:5', '10:3']);
    expect(serve(decimal(5), demand, [10]).map(({ lineId, reserved }) => `${lineId}:${reserved}`)[0]).toBe('10:5');
  });
  test('never reserves more than there is, nor takes a reservation away', () => {
    const some = fc.array(fc.record({ wanted: fc.integer({ min: 0, max: 9 }), share: fc.integer({ min: 0, max: 9 }) }), { maxLength: 8 });
    fc.assert(
      fc.property(some, fc.integer({ min: 0, max: 60 }), (rows, extra) => {
        const demand = rows.map(({ wanted, share }, index) => demandLine(index + 1, { wanted: decimal(wanted), reserved: decimal(Math.min(wanted, share)) }));
        const before = sum(demand.map(({ reserved }) => reserved));
        const served = serve(before.plus(extra), demand);
        expect(sum(served.map(({ reserved }) => reserved)).lte(before.plus(extra))).toBe(true);
        served.forEach((one) =>
          expect(one.reserved.gte(demand.find(({ lineId }) => lineId === one.lineId)?.reserved ?? 0) && one.reserved.lte(one.wanted)).toBe(true),
        );
        const kept = releaseLost(decimal(extra), demand);
        expect(sum(kept.map(({ reserved }) => reserved)).lte(Math.max(extra, 0))).toBe(true);
      }),
    );
  });
});

/** A step at random: receive, shelve, lose, find; a pick and a dispatch for the order line. */
const steps = fc.array(
  fc.record({
    what: fc.constantFrom('receive', 'move', 'lose', 'find', 'pick', 'dispatch'),
    quantity: fc.integer({ min: 1, max: 9 }),
    cents: fc.integer({ min: 0, max: 5000 }),
  }),
  { maxLength: 25 },
);
const asMovement = ({ what, quantity, cents }: { what: string; quantity: number; cents: number }): Movement => {
  const sale = { serves: [{ kind: 'sales' as const, lineId: 1 }] };
  if (what === 'receive') return receipt(quantity, decimal(cents).div(100).toFixed(2));
  if (what === 'move') return movement([line(1, 2, quantity)], { kind: 'shelf-move' });
  if (what === 'lose') return movement([line(1, 6, quantity)]);
  if (what === 'find') return movement([line(6, 2, quantity)]);
  return what === 'pick' ? movement([line(1, 3, quantity, sale)], { kind: 'pick' }) : movement([line(3, 5, quantity, sale)], { kind: 'dispatch' });
};

/** What the plan says will be known is what the world is then. */
function agree(known: LedgerState, then: LedgerState): void {
  const item = (state: LedgerState) => {
    const { pool, layers, lastSeq } = state.items.get(1) as ItemState;
    const held = layers.map(({ seq, quantity, value }) => `${seq}: ${quantity.toFixed()} ${value.toFixed(2)}`);
    return [pool.quantity.toFixed(), pool.value.toFixed(2), lastSeq, held];
  };
  const balances = (state: LedgerState) =>
    [...state.balances].filter(([, quantity]) => !quantity.isZero()).map(([key, quantity]) => `${key} ${quantity.toFixed()}`);
  const site = (state: LedgerState) => [...state.sites.values()].map(({ onHand, bench }) => [onHand.toFixed(), bench.toFixed()]);
  const counters = (state: LedgerState) =>
    [...state.documents].map(([id, { arrived, drawn, finished }]) => [id, arrived.toFixed(), drawn.toFixed(), finished.toFixed()]);
  for (const what of [item, site, counters, (state: LedgerState) => balances(state).sort()]) expect(what(known)).toEqual(what(then));
}

describe.each(['average', 'fifo'] as const)('any sequence of postings, cost by %s', (method) => {
  test('conserves quantity, keeps pool and places in step, balances every entry, and leaves nothing on an empty pool', () => {
    fc.assert(
      fc.property(steps, (given) => {
        let world = emptyWorld(method);
        for (const step of given) {
          const posted = attempt(() => plan(asMovement(step), stateOf(world)));
          if (!posted) continue;
          expect(sum(posted.journal.map(({ amount }) => amount)).isZero()).toBe(true);
          const known = posted.after;
          world = after(world, posted);
          agree(known, stateOf(world));
          expect(sum([...world.balances.values()]).isZero()).toBe(true);
          const owned = sum(places.filter(({ kind }) => isOwned(kind)).map(({ id }) => world.balances.get(id) ?? zero));
          expect(owned.eq(world.quantity)).toBe(true);
          expect(world.value.gte(0) && (!world.quantity.isZero() || world.value.isZero())).toBe(true);
          if (method === 'average') continue;
          expect(sum(world.layers.map(({ quantity }) => quantity)).eq(world.quantity)).toBe(true);
          expect(sum(world.layers.map(({ value }) => value)).eq(world.value)).toBe(true);
          world.layers.forEach(({ quantity, value }) => expect(value.gte(0) && (!quantity.isZero() || value.isZero())).toBe(true));
        }
      }),
    );
  });
  test('an undo restores quantities at once, and value when nothing happened in between', () => {
    fc.assert(
      fc.property(steps, (given) => {
        let world = emptyWorld(method);
        for (const step of given) {
          const posted = attempt(() => plan(asMovement(step), stateOf(world)));
          if (!posted) continue;
          const then = after(world, posted);
          const undone = plan(reversalOf({ id: 1, kind: 'correction', reasonId: 1, lines: posted.lines }, '2026-11-23', ''), stateOf(then));
          const again = after(then, undone);
          expect([again.quantity.toFixed(), again.value.toFixed(2)]).toEqual([world.quantity.toFixed(), world.value.toFixed(2)]);
          [...again.balances].forEach(([id, quantity]) => expect(quantity.eq(world.balances.get(id) ?? zero)).toBe(true));
          world = then;
        }
      }),
    );
  });
});

describe('an undo whose goods have gone', () => {
  test('undoing a dear receipt after cheap ones sold takes no more value than there is; the rest is cost variance', () => {
    let world = after(emptyWorld(), plan(receipt(10, '100.00'), stateOf(emptyWorld())));
    const dear = plan(receipt(10, '10.00'), stateOf(world));
    world = after(world, dear);
    world = after(world, plan(movement([line(1, 6, 10)]), stateOf(world)));
    const first = { id: 1, kind: 'receipt' as const, reasonId: null, lines: plan(receipt(10, '100.00'), stateOf(emptyWorld())).lines };
    const undone = plan(reversalOf(first, '2026-11-23', ''), stateOf(world));
    expect([undone.lines[0]?.value.toFixed(2), undone.lines[0]?.variance.toFixed(2)]).toEqual(['-55.00', '-45.00']);
    expect(undone.journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [1, '-55.00'],
      [2, '100.00'],
      [4, '-45.00'],
    ]);
  });
  test('the last of it goes back after a charge came on top: nothing is left of its worth, what came on top is cost variance', () => {
    const receiving = plan(receipt(5, '10.00'), stateOf(emptyWorld()));
    const world = { ...after(emptyWorld(), receiving), value: decimal('12.50') };
    const undone = plan(reversalOf({ id: 1, kind: 'receipt', reasonId: null, lines: receiving.lines }, '2026-11-23', ''), stateOf(world));
    expect([undone.lines[0]?.value.toFixed(2), undone.lines[0]?.variance.toFixed(2)]).toEqual(['-12.50', '2.50']);
    expect(undone.journal.map(({ accountId, amount }) => [accountId, amount.toFixed(2)])).toEqual([
      [1, '-12.50'],
      [2, '10.00'],
      [4, '2.50'],
    ]);
  });
  test('under first in, first out a receipt of which some was used is not undone; a loss gives back to the layers it took from', () => {
    const start = emptyWorld('fifo');
    const first = plan(receipt(4, '8.00'), stateOf(start));
    const second = plan(receipt(4, '12.00'), stateOf(after(start, first)));
    const both = after(after(start, first), second);
    const loss = plan(movement([line(1, 6, 5)]), stateOf(both));
    expect(loss.lines[0]?.value.toFixed(2)).toBe('-11.00');
    const left = after(both, loss);
    const undo = (lines: Plan['lines'], kind: 'receipt' | 'correction', world: World) =>
      plan(reversalOf({ id: 1, kind, reasonId: 1, lines }, '2026-11-23', ''), stateOf(world));
    expect(refusal(() => undo(second.lines, 'receipt', left)).type).toBe('not-enough-stock');
    const more = after(left, plan(receipt(9, '90.00'), stateOf(left)));
    expect(refusal(() => undo(second.lines, 'receipt', more)).type).toBe('layer-used');
    const back = after(left, undo(loss.lines, 'correction', left));
    expect(back.layers.map(({ quantity, value }) => [quantity.toFixed(), value.toFixed(2)])).toEqual([
      ['4', '8.00'],
      ['4', '12.00'],
    ]);
  });
});

function attempt(work: () => Plan): Plan | null {
  try {
    return work();
  } catch (error) {
    if (error instanceof Refusal) return null;
    throw error;
  }
}

test('what is received and not billed waits for a bill; what went back after it was billed is a credit expected', () => {
  const told = (before: number, after: number) => {
    const { grni, creditsExpected } = goodsOpen(decimal(before), decimal(after));
    return [grni.toNumber() + 0, creditsExpected.toNumber() + 0];
  };
  expect(told(0, 30)).toEqual([-30, 0]); // a receipt
  expect(told(30, 0)).toEqual([30, 0]); // its bill
  expect(told(0, -12)).toEqual([0, 12]); // goods go back after that
  expect(told(6, -3)).toEqual([6, 3]); // some of them not billed yet
  expect(told(-12, 0)).toEqual([0, -12]); // the credit comes
  fc.assert(
    fc.property(fc.integer({ min: -1000, max: 1000 }), fc.integer({ min: -1000, max: 1000 }), (before, after) => {
      const [grni, credits] = told(before, after);
      expect((grni ?? 0) + (credits ?? 0)).toBe(before - after);
    }),
  );
});
