import { describe, expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { beyondLimit } from './credit';

const standing = (owed: string, ordered: string, limit: string | null) => ({
  owed: decimal(owed),
  ordered: decimal(ordered),
  limit: limit === null ? null : decimal(limit),
});

describe('beyond a credit limit', () => {
  test('is what is owed and ordered beyond it, by the cent', () => {
    expect(beyondLimit(standing('80.00', '20.01', '100'))?.toFixed(2)).toBe('0.01');
    expect(beyondLimit(standing('0', '350.50', '100.25'))?.toFixed(2)).toBe('250.25');
  });
  test('nobody is who keeps it, reaches it, or has none', () => {
    expect(beyondLimit(standing('80', '20', '100'))).toBeNull();
    expect(beyondLimit(standing('80', '19.99', '100'))).toBeNull();
    expect(beyondLimit(standing('1000000', '1', null))).toBeNull();
  });
  test('what is paid too much makes room', () => {
    expect(beyondLimit(standing('-50', '149.99', '100'))).toBeNull();
    expect(beyondLimit(standing('-50', '151', '100'))?.toFixed(2)).toBe('1.00');
  });
});
