import { expect, test } from '@jest/globals';
import { daysAnswersKept, isPastKnowing, keyMadeAt, newRequestKey } from './requestKey';

test('a key tells when it was made, and no two are the same', () => {
  const before = Date.now();
  const keys = Array.from({ length: 100 }, newRequestKey);
  expect(new Set(keys).size).toBe(100);
  for (const key of keys) expect(keyMadeAt(key)).toBeGreaterThanOrEqual(before - 1);
  expect(keyMadeAt('017f22e2-79b0-7cc3-98c4-dc0c0c07398f')).toBe(Date.UTC(2022, 1, 22, 19, 22, 22));
});
test('a key of another kind does not tell, and is never too old', () => {
  for (const key of ['9b2a7e0e-6b1c-4a3e-9d5d-0f0a3c1b2d4e', 'receipt-1', '', '{"a":1}']) {
    expect(keyMadeAt(key)).toBeNull();
    expect(isPastKnowing(key, new Date())).toBe(false);
  }
});
test('a request is past knowing a day before its answer could have been cleared', () => {
  const key = '017f22e2-79b0-7cc3-98c4-dc0c0c07398f';
  const after = (days: number) => new Date(Date.UTC(2022, 1, 22, 19, 22, 22) + days * 86_400_000);
  expect(isPastKnowing(key, after(daysAnswersKept - 1))).toBe(false);
  expect(isPastKnowing(key, new Date(after(daysAnswersKept - 1).getTime() + 1))).toBe(true);
});
