import { describe, expect, test } from '@jest/globals';
import { isSeasonal, isTrending, traitsOf } from './pattern';

const series = (length: number, of: (at: number) => number) => Array.from({ length }, (_, at) => of(at));
const noise = (at: number) => {
  const far = Math.sin((at + 1) * 12.9898) * 43758.5453;
  return (far - Math.floor(far)) * 12 - 6;
};

describe('how demand comes', () => {
  test.each([
    ['none', series(60, () => 0)],
    ['none', []],
    ['new', [0, 0, 0, 4, 5, 6]],
    ['lumpy', series(60, (at) => (at % 4 === 0 ? 12 : 0))],
    ['lumpy', series(60, (at) => (at === 7 ? 1 : 0))],
    ['steady', series(60, (at) => 40 + noise(at))],
    ['trending', series(60, (at) => 40 + at + noise(at))],
    ['trending', series(60, (at) => 140 - at + noise(at))],
    ['seasonal', series(120, (at) => 60 + Math.round(40 * Math.sin((2 * Math.PI * at) / 52)) + noise(at))],
    // What rises by the year comes back all the same.
    ['seasonal', series(120, (at) => 60 + at + Math.round(40 * Math.sin((2 * Math.PI * at) / 52)) + noise(at))],
  ])('is %s', (pattern, values) => {
    expect(traitsOf(values, 52).pattern).toBe(pattern);
  });
  test('periods from one demand to the next, and how sizes vary, are told from the first demand on', () => {
    // Sizes 2 and 6: on average 4, squared deviation 4, so 4/16.
    expect(traitsOf([0, 0, 2, 0, 0, 0, 0, 6, 0, 0], 52)).toEqual({ pattern: 'lumpy', apart: 4, variation: 0.25 });
    expect(traitsOf([0], 52)).toEqual({ pattern: 'none', apart: null, variation: null });
  });
});

test('less than two years do not show that it comes back, nor does chance', () => {
  const yearly = (at: number) => 60 + Math.round(40 * Math.sin((2 * Math.PI * at) / 52));
  expect([isSeasonal(series(103, yearly), 52), isSeasonal(series(104, yearly), 52)]).toEqual([false, true]);
  expect([
    isSeasonal(
      series(120, () => 7),
      52,
    ),
    isSeasonal(
      series(120, (at) => 40 + noise(at)),
      52,
    ),
  ]).toEqual([false, false]);
});

test('what is tied tells nothing of a trend', () => {
  expect([isTrending(series(40, () => 5)), isTrending([]), isTrending([1])]).toEqual([false, false, false]);
});
