import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum, type Decimal } from '../decimal';
import { average } from './average';
import { landedCost, unmeasured } from './landed';
import { afterMoves, undoMoves } from './layers';
import { costMethods, type Layer, type Leaving } from './method';

describe('moving average', () => {
  test('12 worth 84.00 and 30 at 8.40 make 42 worth 336.00; 5 leave at 40.00', () => {
    const pool = { quantity: decimal(42), value: decimal(84).plus(decimal(30).times('8.40')) };
    expect(pool.value.toFixed(2)).toBe('336.00');
    expect(average.worthOf({ pool, layers: [] }, decimal(1))?.toFixed(2)).toBe('8.00');
    const gone = average.take({ pool, layers: [] }, { quantity: decimal(5), lotId: null, named: [] }).value;
    expect([gone.toFixed(2), pool.value.minus(gone).toFixed(2)]).toEqual(['40.00', '296.00']);
  });
  test('three units worth 10.00 leave as 3.33, 3.34, 3.33', () => {
    let pool = { quantity: decimal(3), value: decimal(10) };
    const left = [1, 2, 3].map(() => {
      const value = average.take({ pool, layers: [] }, { quantity: decimal(1), lotId: null, named: [] }).value;
      pool = { quantity: pool.quantity.minus(1), value: pool.value.minus(value) };
      return value.toFixed(2);
    });
    expect(left).toEqual(['3.33', '3.34', '3.33']);
  });
  test('a pool that empties is worth 0.00, however it empties', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 30 }), fc.integer({ min: 0, max: 1_000_000 }), (parts, worth) => {
        let pool = { quantity: sum(parts.map(decimal)), value: decimal(worth).div(100) };
        for (const part of parts) {
          const value = average.take({ pool, layers: [] }, { quantity: decimal(part), lotId: null, named: [] }).value;
          expect(value.gte(0)).toBe(true);
          pool = { quantity: pool.quantity.minus(part), value: pool.value.minus(value) };
        }
        expect([pool.quantity.toFixed(), pool.value.toFixed(2)]).toEqual(['0', '0.00']);
      }),
    );
  });
});

describe('cost by layers', () => {
  const layer = (seq: number, quantity: number, value: string, part: Partial<Layer> = {}): Layer => ({
    seq,
    quantity: decimal(quantity),
    value: decimal(value),
    lotId: null,
    ...part,
  });
  const holding = (layers: Layer[]) => ({ pool: { quantity: sum(layers.map((one) => one.quantity)), value: sum(layers.map((one) => one.value)) }, layers });
  const leaving = (quantity: number, part: Partial<Leaving> = {}): Leaving => ({ quantity: decimal(quantity), lotId: null, named: [], ...part });
  test('first in, first out: 12 at 7.00, then 30 at 8.40; 15 leave at 109.20, and one found is worth 8.40', () => {
    const here = holding([layer(1, 12, '84.00'), layer(2, 30, '252.00')]);
    const { value, moves } = costMethods.fifo.take(here, leaving(15));
    expect(value.toFixed(2)).toBe('109.20');
    expect(moves.map(({ layerSeq, quantity }) => [layerSeq, quantity.toFixed()])).toEqual([
      [1, '-12'],
      [2, '-3'],
    ]);
    expect(costMethods.fifo.worthOf(here, decimal(1))?.toFixed(2)).toBe('8.40');
  });
  test('what goes back to its supplier takes the layers of the receipts it is taken off, and so many of each; the rest the oldest', () => {
    const here = holding([layer(1, 5, '10.00'), layer(2, 5, '40.00')]);
    expect(costMethods.fifo.take(here, leaving(6, { named: [{ layerSeq: 2, quantity: decimal(5) }] })).value.toFixed(2)).toBe('42.00');
    const { moves } = costMethods.fifo.take(here, leaving(4, { named: [{ layerSeq: 2, quantity: decimal(3) }] }));
    expect(moves.map(({ layerSeq, quantity, value }) => [layerSeq, quantity.toFixed(), value.toFixed(2)])).toEqual([
      [2, '-3', '-24.00'],
      [1, '-1', '-2.00'],
    ]);
  });
  test('a layer that is named and has too few left gives what it has; one that is not of this serial gives nothing', () => {
    const here = holding([layer(1, 5, '10.00'), layer(2, 2, '40.00')]);
    expect(costMethods.fifo.take(here, leaving(4, { named: [{ layerSeq: 2, quantity: decimal(4) }] })).value.toFixed(2)).toBe('44.00');
    const units = holding([layer(1, 1, '100.00', { lotId: 1 }), layer(2, 1, '140.00', { lotId: 2 })]);
    expect(costMethods.specific.take(units, leaving(1, { lotId: 1, named: [{ layerSeq: 2, quantity: decimal(1) }] })).value.toFixed(2)).toBe('100.00');
  });
  test('specific: a serial takes its own cost, whenever it came', () => {
    const here = holding([layer(1, 1, '100.00', { lotId: 1 }), layer(2, 1, '140.00', { lotId: 2 })]);
    expect(costMethods.specific.take(here, leaving(1, { lotId: 2 })).value.toFixed(2)).toBe('140.00');
    expect(() => costMethods.specific.take(here, leaving(1, { lotId: 3 }))).toThrow('less than the pool');
  });
  const put = fc.record({ quantity: fc.integer({ min: 1, max: 20 }), cents: fc.integer({ min: 0, max: 9999 }), lot: fc.integer({ min: 1, max: 3 }) });
  test.each(['fifo', 'specific'] as const)('%s: what has left and what is here is what came, to the cent; an empty layer is worth nothing', (name) => {
    fc.assert(
      fc.property(fc.array(put, { minLength: 1, maxLength: 8 }), fc.array(put, { maxLength: 30 }), (came, asked) => {
        let layers = came.map(({ quantity, cents, lot }, index) => layer(index + 1, quantity, decimal(cents).div(100).toFixed(2), { lotId: lot }));
        const whole = sum(layers.map(({ value }) => value));
        let gone = decimal(0);
        for (const { quantity, lot } of asked) {
          const mine = sum(layers.filter(({ lotId }) => name === 'fifo' || lotId === lot).map((one) => one.quantity));
          if (mine.lt(quantity)) continue;
          const taken = costMethods[name].take(holding(layers), leaving(quantity, { lotId: lot }));
          const next = afterMoves(layers, taken.moves, { lotId: null });
          const back = afterMoves(next, undoMoves(next, taken.moves) ?? [], { lotId: null });
          expect(back.map(({ value }) => value.toFixed(2))).toEqual(layers.map(({ value }) => value.toFixed(2)));
          gone = gone.plus(taken.value);
          layers = next;
        }
        expect(gone.plus(sum(layers.map(({ value }) => value))).eq(whole)).toBe(true);
        layers.forEach((one) => expect(one.value.gte(0) && (!one.quantity.isZero() || one.value.isZero())).toBe(true));
      }),
    );
  });
});

describe('landed cost of anything', () => {
  const lines = fc.array(
    fc.record({ quantity: fc.integer({ min: 1, max: 500 }), cents: fc.integer({ min: 0, max: 90_000 }), grams: fc.integer({ min: 1, max: 9000 }) }),
    { minLength: 1, maxLength: 8 },
  );
  const charge = fc.record({
    cents: fc.integer({ min: 1, max: 500_000 }),
    by: fc.constantFrom('value' as const, 'quantity' as const, 'weight' as const, 'volume' as const),
    out: fc.array(fc.integer({ min: 0, max: 7 }), { maxLength: 4 }),
  });
  test('is the goods and every charge, to the cent, however each is spread and whatever is left out', () => {
    fc.assert(
      fc.property(lines, fc.array(charge, { minLength: 1, maxLength: 5 }), (given, asked) => {
        const goods = given.map(({ quantity, cents, grams }) => ({
          quantity: decimal(quantity),
          value: decimal(cents).div(100),
          weight: decimal(grams).div(1000),
          volume: decimal(grams).div(1_000_000),
        }));
        const charges = asked
          .map(({ cents, by, out }) => ({ amount: decimal(cents).div(100), by, leftOut: [...new Set(out)].filter((index) => index < goods.length) }))
          .filter(({ leftOut }) => leftOut.length < goods.length);
        const landed = landedCost(goods, charges);
        const whole = sum([...goods.map(({ value }) => value), ...charges.map(({ amount }) => amount)]);
        expect(sum(landed.map(({ total }) => total)).eq(whole)).toBe(true);
        charges.forEach(({ amount, leftOut }, index) => {
          const shares = landed.map(({ shares: parts }) => parts[index] as Decimal);
          expect(sum(shares).eq(amount)).toBe(true);
          leftOut.forEach((at) => expect(shares[at]?.isZero()).toBe(true));
          shares.forEach((share) => expect(share.gte(0) && share.decimalPlaces() <= 2).toBe(true));
        });
      }),
    );
  });
  test('a line that weighs more never bears less of a charge by weight', () => {
    fc.assert(
      fc.property(lines, fc.integer({ min: 1, max: 900_000 }), (given, cents) => {
        const goods = given.map(({ quantity, grams }) => ({ quantity: decimal(quantity), value: decimal(0), weight: decimal(grams), volume: decimal(0) }));
        const shares = landedCost(goods, [{ amount: decimal(cents).div(100), by: 'weight' }]).map((line) => line.shares[0] as Decimal);
        goods.forEach((a, one) =>
          goods.forEach((b, other) => {
            if (a.weight.times(a.quantity).gt(b.weight.times(b.quantity))) expect(shares[one]?.gte(shares[other] as Decimal)).toBe(true);
          }),
        );
      }),
    );
  });
  test('a charge that falls on no line at all is refused', () => {
    const goods = [{ quantity: decimal(1), value: decimal(1), weight: decimal(1), volume: decimal(1) }];
    expect(() => landedCost(goods, [{ amount: decimal(5), by: 'value', leftOut: [0] }])).toThrow(RangeError);
  });
  test('typed parts are parts, whatever they add up to; what has none bears nothing', () => {
    const goods = [1, 2, 3].map(() => ({ quantity: decimal(2), value: decimal(1), weight: decimal(0), volume: decimal(0) }));
    const [a, b, c] = landedCost(goods, [{ amount: decimal(10), by: 'typed', typed: [decimal(1), decimal(3), decimal(0)] }]);
    expect([a, b, c].map((line) => line?.shares[0]?.toFixed(2))).toEqual(['2.50', '7.50', '0.00']);
  });
});

describe('landed cost', () => {
  const line = (quantity: number, price: string, volume: string) => ({
    quantity: decimal(quantity),
    value: decimal(price).times(quantity),
    volume: decimal(volume),
    weight: decimal(0),
  });
  const tanks = line(18, '64.00', '0.095');
  const veils = line(240, '7.35', '0.0045');
  const cages = line(500, '0.62', '0.0003');
  const charges = [
    { amount: decimal('518.40'), by: 'volume' as const },
    { amount: decimal('61.75'), by: 'value' as const, leftOut: [0] },
  ];
  const told = (lines: ReturnType<typeof line>[]) => landedCost(lines, charges).map(({ shares, total }) => [...shares, total].map((part) => part.toFixed(2)));

  test('freight by volume, transport insurance by value with the tanks left out', () => {
    expect(told([tanks, veils, cages])).toEqual([
      ['301.52', '0.00', '1453.52'],
      ['190.43', '52.52', '2006.95'],
      ['26.45', '9.23', '345.68'],
    ]);
    expect(sum(landedCost([tanks, veils, cages], charges).map(({ total }) => total)).toFixed(2)).toBe('3806.15');
  });
  test('with strainers as well', () => {
    const all = [tanks, veils, cages, line(36, '11.20', '0.0062')];
    expect(told(all)).toEqual([
      ['280.24', '0.00', '1432.24'],
      ['177.00', '43.97', '1984.97'],
      ['24.58', '7.73', '342.31'],
      ['36.58', '10.05', '449.83'],
    ]);
    expect(sum(landedCost(all, charges).map(({ total }) => total)).toFixed(2)).toBe('4209.35');
    expect(landedCost([line(1, '10', '1')], [{ amount: decimal(2), by: 'value' }])[0]?.unitCost.toFixed()).toBe('12');
  });
});

describe('what a charge cannot be spread by', () => {
  const goods = (weight: number, volume: number, value = 1) => ({
    quantity: decimal(2),
    value: decimal(value),
    weight: decimal(weight),
    volume: decimal(volume),
  });
  const charge = (by: 'weight' | 'volume' | 'value' | 'quantity' | 'typed', part: object = {}) => ({ amount: decimal(5), by, ...part });
  test('by weight or volume every line it falls on must have one; lines left out need none', () => {
    expect(unmeasured([goods(1, 1), goods(0, 1), goods(2, 0)], charge('weight'))).toEqual([1]);
    expect(unmeasured([goods(1, 1), goods(0, 1), goods(2, 0)], charge('volume'))).toEqual([2]);
    expect(unmeasured([goods(1, 1), goods(0, 1)], charge('weight', { leftOut: [1] }))).toEqual([]);
  });
  test('by value, quantity or typed parts it is enough that one line has some', () => {
    expect(unmeasured([goods(0, 0, 0), goods(0, 0, 3)], charge('value'))).toEqual([]);
    expect(unmeasured([goods(0, 0, 0), goods(0, 0, 0)], charge('value'))).toEqual([0, 1]);
    expect(unmeasured([goods(0, 0)], charge('quantity'))).toEqual([]);
    expect(unmeasured([goods(0, 0), goods(0, 0)], charge('typed', { typed: [decimal(0), decimal(1)] }))).toEqual([]);
    expect(unmeasured([goods(0, 0), goods(0, 0)], charge('typed', { typed: [decimal(0)] }))).toEqual([0, 1]);
  });
});

describe('layers in whatever order they are read', () => {
  const one = (seq: number, quantity: number, value: string): Layer => ({ seq, quantity: decimal(quantity), value: decimal(value), lotId: null });
  const pool = { quantity: decimal(9), value: decimal(29) };
  test('the oldest leaves first; one more is worth what the newest that holds anything is', () => {
    const { moves } = costMethods.fifo.take(
      { pool, layers: [one(7, 3, '15.00'), one(2, 4, '8.00'), one(5, 2, '6.00')] },
      { quantity: decimal(5), lotId: null, named: [] },
    );
    expect(moves.map(({ layerSeq, quantity }) => [layerSeq, quantity.toFixed()])).toEqual([
      [2, '-4'],
      [5, '-1'],
    ]);
    expect(costMethods.fifo.worthOf({ pool, layers: [one(2, 3, '10.00'), one(5, 0, '0')] }, decimal(2))?.toFixed(2)).toBe('6.67');
    expect(costMethods.fifo.worthOf({ pool, layers: [one(2, 3, '10.00'), one(5, 1, '7.00')] }, decimal(2))?.toFixed(2)).toBe('14.00');
    expect([
      costMethods.fifo.worthOf({ pool, layers: [] }, decimal(1)),
      average.worthOf({ pool: { quantity: decimal(0), value: decimal(0) }, layers: [] }, decimal(1)),
    ]).toEqual([null, null]);
  });
  test('afterwards they stand oldest first, a new one with its lot', () => {
    const after = afterMoves([one(7, 3, '15.00'), one(2, 4, '8.00')], [{ layerSeq: 9, quantity: decimal(1), value: decimal(4) }], { lotId: 3 });
    expect(after.map(({ seq, lotId }) => [seq, lotId])).toEqual([
      [2, null],
      [7, null],
      [9, 3],
    ]);
    expect(undoMoves([], [{ layerSeq: 2, quantity: decimal(1), value: decimal(1) }])).toBeNull();
    expect(average.take({ pool, layers: [] }, { quantity: decimal(0), lotId: null, named: [] })).toEqual({ value: decimal(0), moves: [] });
  });
});
