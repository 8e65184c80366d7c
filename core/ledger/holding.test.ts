import { expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { holdFaults, planHold } from './holding';
import { demandLine } from './world';
import type { SiteState } from './types';

const line = (lineId: number, wanted: number, reserved: number) => demandLine(lineId, { wanted: decimal(wanted), reserved: decimal(reserved) });
const site: SiteState = {
  itemId: 1,
  siteId: 2,
  siteName: 'Barn store',
  onHand: decimal(10),
  bench: decimal(0),
  demand: [line(1, 6, 6), line(2, 8, 4), line(3, 5, 0)],
};
const give = (lineId: number, quantity: number) => ({ lineId, quantity: decimal(quantity) });
const faults = (...from: ReturnType<typeof give>[]) => holdFaults(site, 3, from).map(({ field, sentence }) => `${field}: ${sentence}`);

test('what others hold goes to the line that is short, and no more is reserved than before', () => {
  const { sites, releases, reserves, notes } = planHold(site, 3, [give(1, 2), give(2, 3)]);
  expect(sites[0]?.after.demand.map(({ lineId, reserved }) => [lineId, reserved.toFixed()])).toEqual([
    [1, '4'],
    [2, '1'],
    [3, '5'],
  ]);
  expect([...releases, ...reserves].map(({ lineId, quantity }) => [lineId, quantity.toFixed()])).toEqual([
    [1, '-2'],
    [2, '-3'],
    [3, '5'],
  ]);
  expect(notes).toEqual(['SO-1 line 1 becomes short of 2.', 'SO-2 line 1 becomes short of 3.']);
});

test('nobody gives more than it holds or twice, and nobody gets more than it is short of', () => {
  expect(faults(give(1, 5))).toEqual([]);
  expect(faults(give(2, 5))).toEqual(['from.0.quantity: SO-2 line 1 holds only 4.']);
  expect(faults(give(1, 4), give(2, 2))).toEqual(['from: SO-3 line 1 is short of only 5.']);
  expect(faults(give(1, 1), give(1, 1))).toEqual(['from: A line can give only once.']);
  expect(faults(give(3, 1), give(9, 1))).toEqual([
    'from.0.lineId: That line holds nothing of this item here.',
    'from.1.lineId: That line holds nothing of this item here.',
  ]);
  expect(holdFaults(site, 7, [give(1, 1)])[0]?.sentence).toBe('That line wants nothing any more.');
});
