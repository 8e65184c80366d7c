import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum, zero } from '../decimal';
import { surplusOf } from '../stock/proposals';
import type { Way } from './levels';
import { nextBreak, proposalsOf, standing, type ItemFacts, type ToppedUp } from './proposals';

interface At {
  free?: number;
  incoming?: number;
  short?: number;
  drafted?: number;
  levels?: [point: number, upTo: number] | null;
  way?: Way;
  pack?: number;
}
const site = (siteId: number, { free = 0, incoming = 0, short = 0, drafted = 0, levels = null, way = { by: 'best' }, pack }: At): ToppedUp => ({
  ...{ siteId, free: decimal(free), incoming: decimal(incoming), short: decimal(short), drafted: decimal(drafted), way },
  ...{ reorderPoint: levels && decimal(levels[0]), orderUpTo: levels && decimal(levels[1]), pack: pack === undefined ? null : decimal(pack) },
});
const terms = { packSize: '6', minimum: '0', price: '2', breaks: [] };
const facts: ItemFacts = { step: decimal(1), made: false, suppliers: [{ supplierId: 7, retired: false, terms }] };
const said = (sites: ToppedUp[], part: Partial<ItemFacts> = {}) =>
  proposalsOf(sites, { ...facts, ...part }).map(({ siteId, source, quantity, note }) =>
    [siteId, source.by === 'bring' ? `bring ${source.siteId}` : source.by === 'buy' ? `buy ${source.supplierId}` : 'make', quantity.toFixed(), note ?? '']
      .join(' ')
      .trim(),
  );

describe('how an item is topped up', () => {
  test('point 8, up to 24, 7 free: 17, in packs of six 18; on a draft already it is proposed no more', () => {
    expect(said([site(1, { free: 7, levels: [8, 24] })])).toEqual(['1 buy 7 18']);
    expect(said([site(1, { free: 7, drafted: 18, levels: [8, 24] })])).toEqual([]);
    expect(said([site(1, { free: 7, drafted: 1, levels: [8, 24] })])).toEqual(['1 buy 7 18']);
  });

  test('what another site has free above its own level comes first; what is enough to be above the point is enough', () => {
    const [here, rich] = [site(1, { free: 7, levels: [8, 24] }), site(2, { free: 40, levels: [10, 30] })];
    expect(said([here, rich])).toEqual(['1 bring 2 10']);
    expect(said([here, site(2, { free: 31, levels: [10, 30] })])).toEqual(['1 bring 2 1', '1 buy 7 18'].slice(0, 2));
    expect(said([here, site(2, { free: 40, short: 1, levels: [10, 30] })])).toEqual(['1 buy 7 18']);
    expect(said([here, site(2, { free: 40 })])).toEqual(['1 buy 7 18']);
  });

  test('a site that is served from another takes all that is free there, and says when that is too little', () => {
    const way: Way = { by: 'bring', siteId: 2 };
    expect(said([site(1, { free: 1, levels: [2, 10], way }), site(2, { free: 40, levels: [50, 90] })])).toEqual(['1 bring 2 9', '2 buy 7 54']);
    expect(said([site(1, { free: 1, levels: [2, 10], way }), site(2, { free: 4, levels: [1, 9] })])).toEqual(['1 bring 2 4 giver-short']);
    expect(said([site(1, { free: 1, levels: [2, 10], way }), site(2, {})])).toEqual(['1 bring 2 0 giver-short']);
    expect(said([site(1, { free: 1, levels: [2, 10], way, pack: 4 }), site(2, { free: 11 })])).toEqual(['1 bring 2 8 giver-short']);
  });

  test('what is made is made, unless its way is to buy it; without a bill it is bought, and said', () => {
    const here = (way: Way) => [site(1, { free: 0, levels: [2, 10], way, pack: 4 })];
    expect(said(here({ by: 'best' }), { made: true })).toEqual(['1 make 12']);
    expect(said(here({ by: 'buy', supplierId: null }), { made: true })).toEqual(['1 buy 7 12']);
    expect(said(here({ by: 'make' }))).toEqual(['1 buy 7 12 no-bill']);
  });

  test('of two suppliers the preferred one is asked; when it is retired the other, and that is said; without any nobody is', () => {
    const two = (retired: boolean) => [
      { supplierId: 7, retired: false, terms },
      { supplierId: 8, retired, terms: { ...terms, packSize: '1', minimum: '20' } },
    ];
    const here = [site(1, { free: 0, levels: [2, 10], way: { by: 'buy', supplierId: 8 } })];
    expect(said(here, { suppliers: two(false) })).toEqual(['1 buy 8 20']);
    expect(said(here, { suppliers: two(true) })).toEqual(['1 buy 7 12 supplier-retired']);
    expect(said([site(1, { levels: [2, 10] })], { suppliers: [] })).toEqual(['1 buy null 10']);
  });

  test('a point above the level proposes nothing above the level', () => {
    expect(said([site(1, { free: 12, levels: [20, 10] })])).toEqual([]);
    expect(said([site(1, { free: 4, levels: [20, 10] })])).toEqual(['1 buy 7 6']);
  });
});

test('the next price break, with what it costs and saves', () => {
  const broken = {
    ...terms,
    packSize: '10',
    breaks: [
      { from: '50', price: '1.8' },
      { from: '95', price: '1.5' },
    ],
  };
  const next = (quantity: number) => {
    const found = nextBreak(broken, decimal(quantity));
    return found && [found.quantity.toFixed(), found.price.toFixed(), found.costs.toFixed(2), found.saves.toFixed(2)];
  };
  // 40 at 2.00 are 80.00; 50 at 1.80 are 90.00, 10.00 less than at 2.00.
  expect(next(40)).toEqual(['50', '1.8', '10.00', '10.00']);
  expect(next(50)).toEqual(['100', '1.5', '60.00', '30.00']);
  expect(next(100)).toBeNull();
  expect(nextBreak({ ...terms, price: null }, decimal(3))).toBeNull();
});

test('nobody gives what it has not, no proposal is below nothing, and who is topped up and not held back ends above its point', () => {
  const amount = fc.integer({ min: 0, max: 60 });
  const arbitrary = fc.record({
    free: amount,
    incoming: amount,
    short: fc.constantFrom(0, 0, 5),
    drafted: fc.constantFrom(0, 0, 7),
    levels: fc.option(fc.tuple(amount, fc.integer({ min: 61, max: 120 })), { nil: null }),
    pack: fc.constantFrom(1, 1, 6),
    way: fc.constantFrom<Way>({ by: 'best' }, { by: 'best' }, { by: 'buy', supplierId: null }, { by: 'make' }, { by: 'bring', siteId: 1 }),
  });
  fc.assert(
    fc.property(fc.array(arbitrary, { minLength: 1, maxLength: 6 }), fc.boolean(), (many, made) => {
      const sites = many.map((at, nth) => site(nth + 1, at.way.by === 'bring' && nth === 0 ? { ...at, way: { by: 'best' } } : at));
      const found = proposalsOf(sites, { ...facts, made });
      for (const at of sites) {
        const given = sum(found.filter(({ source }) => source.by === 'bring' && source.siteId === at.siteId).map(({ quantity }) => quantity));
        const isAsked = sites.some(({ way }) => way.by === 'bring' && way.siteId === at.siteId);
        expect(given.lte(isAsked ? at.free : surplusOf(at))).toBe(true);
        const own = found.filter(({ siteId }) => siteId === at.siteId);
        expect(own.every(({ quantity }) => quantity.gte(zero))).toBe(true);
        const low = at.reorderPoint !== null && standing(at).lte(at.reorderPoint);
        expect(own.length > 0).toBe(low);
        if (low && own.every(({ note }) => note !== 'giver-short'))
          expect(
            standing(at)
              .plus(sum(own.map(({ quantity }) => quantity)))
              .gt(at.reorderPoint ?? zero),
          ).toBe(true);
      }
    }),
  );
});
