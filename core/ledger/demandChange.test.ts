import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { decimal, sum } from '../decimal';
import { planDemand, type Wanting } from './demandChange';
import { reservedOf } from './serving';
import type { DemandLine, SiteState } from './types';

const line = (lineId: number, wanted: number, reserved: number, neededOn = '2026-12-01'): DemandLine => ({
  lineId,
  kind: 'sales',
  number: `SO-${lineId}`,
  position: 1,
  neededOn,
  promisedOn: null,
  standsBack: false,
  wanted: decimal(wanted),
  reserved: decimal(reserved),
});
const site = (siteId: number, onHand: number, ...demand: DemandLine[]): SiteState => ({
  itemId: 1,
  siteId,
  siteName: `Site ${siteId}`,
  onHand: decimal(onHand),
  bench: decimal(0),
  demand,
});
const wants = (lineId: number, wanted: number, siteId = 1): Wanting => {
  const { reserved: _reserved, ...rest } = line(lineId, wanted, 0);
  return { ...rest, itemId: 1, siteId };
};
const told = ({ releases, reserves }: ReturnType<typeof planDemand>) =>
  [...releases, ...reserves].map(({ lineId, siteId, quantity }) => [lineId, siteId, quantity.toNumber()]);

test('a line that is confirmed is reserved what is free, one that ends gives what it held to those who are short', () => {
  expect(told(planDemand([site(1, 10, line(1, 7, 7))], new Set([2]), [wants(2, 5)]))).toEqual([[2, 1, 3]]);
  const ended = planDemand([site(1, 10, line(1, 7, 7), line(2, 5, 3))], new Set([1]), []);
  expect(told(ended)).toEqual([
    [1, 1, -7],
    [2, 1, 2],
  ]);
  expect(ended.notes).toEqual(['SO-2 line 1 gets 2 it was short of.']);
});

test('a line that comes from another site gives up what it held here and is reserved there; nobody there loses anything', () => {
  const moved = planDemand([site(1, 10, line(1, 6, 6), line(2, 8, 4)), site(2, 5, line(3, 3, 3))], new Set([1]), [wants(1, 6, 2)]);
  expect(told(moved)).toEqual([
    [1, 1, -6],
    [2, 1, 4],
    [1, 2, 2],
  ]);
});

test('a line that stands back gives up what it held, and is served again once it no longer does', () => {
  const back = planDemand([site(1, 4, line(1, 6, 4), line(2, 3, 0))], new Set([1]), [{ ...wants(1, 6), standsBack: true }]);
  expect(told(back)).toEqual([
    [1, 1, -4],
    [2, 1, 3],
  ]);
  const again = planDemand([site(1, 4, { ...line(1, 6, 0), standsBack: true }, line(2, 3, 3))], new Set([1]), [wants(1, 6)]);
  expect(told(again)).toEqual([[1, 1, 1]]);
});

test('a line that is new is known by an id below zero, and one that wants less keeps no more than it wants', () => {
  expect(told(planDemand([site(1, 10, line(1, 9, 9))], new Set([1]), [wants(1, 4), wants(-1, 3)]))).toEqual([
    [1, 1, -5],
    [-1, 1, 3],
  ]);
});

test('whatever is decided, no more is reserved than there is, nobody else loses, and nothing lies free while somebody is short', () => {
  const demand = fc.array(fc.record({ wanted: fc.nat(9), part: fc.nat(9), decided: fc.boolean(), becomes: fc.option(fc.nat(12)) }), { maxLength: 6 });
  fc.assert(
    fc.property(fc.nat(40), demand, (spare, lines) => {
      const standing = lines.map(({ wanted, part }, at) => line(at + 1, wanted, Math.min(wanted, part)));
      const onHand = reservedOf(standing).plus(spare);
      const decided = new Set(lines.flatMap((one, at) => (one.decided ? [at + 1] : [])));
      const wanting = lines.flatMap((one, at) => (one.decided && one.becomes !== null ? [wants(at + 1, one.becomes)] : []));
      const { sites, releases, reserves } = planDemand([site(1, onHand.toNumber(), ...standing)], decided, wanting);
      const after = sites[0]?.after.demand ?? [];
      const reserved = reservedOf(after);
      expect(reserved.lte(onHand)).toBe(true);
      for (const one of standing) {
        const now = after.find(({ lineId }) => lineId === one.lineId);
        if (!decided.has(one.lineId)) expect(now?.reserved.gte(one.reserved)).toBe(true);
      }
      expect(after.every(({ wanted, reserved: held }) => held.lte(wanted))).toBe(true);
      const isShort = after.some((one) => one.reserved.lt(one.wanted));
      expect(isShort && onHand.gt(reserved)).toBe(false);
      expect(
        reservedOf(standing)
          .plus(sum([...releases, ...reserves].map(({ quantity }) => quantity)))
          .eq(reserved),
      ).toBe(true);
    }),
  );
});
