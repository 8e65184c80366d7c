import { expect, test } from '@jest/globals';
import { awayFor, sighted, type InView } from './sightings';

test('what is held before the camera is one scan; gone for a while and back, it is another', () => {
  let inView: InView = new Map();
  const see = (codes: string[], now: number): string[] => {
    const seen = sighted(inView, codes, now);
    inView = seen.inView;
    return seen.scans;
  };
  expect(see(['A-1'], 0)).toEqual(['A-1']);
  for (let now = 200; now <= 2000; now += 200) expect(see(['A-1'], now)).toEqual([]);
  // A picture in between in which it was not found changes nothing.
  expect(see([], 2200)).toEqual([]);
  expect(see(['A-1'], 2400)).toEqual([]);
  expect(see(['A-1'], 2400 + awayFor)).toEqual(['A-1']);
});

test('several in one picture are taken in their order, each once; spaces around it are no part of a code', () => {
  const { scans, inView } = sighted(new Map(), [' B ', 'A', 'B', ''], 0);
  expect(scans).toEqual(['B', 'A']);
  expect(sighted(inView, ['A', 'C'], 100).scans).toEqual(['C']);
});
