import { expect, test } from '@jest/globals';
import { standsRefused } from './decision';

test('what was refused stands as long as about the same is suggested', () => {
  expect(standsRefused({ point: 10, upTo: 50 }, { point: 12, upTo: 45 })).toBe(true);
  expect(standsRefused({ point: 10, upTo: 50 }, { point: 13, upTo: 50 })).toBe(false);
  expect(standsRefused({ point: 10, upTo: 50 }, { point: 10, upTo: 61 })).toBe(false);
  expect(standsRefused({ point: 0, upTo: 1 }, { point: 0, upTo: 1 })).toBe(true);
});
