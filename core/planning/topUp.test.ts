import { describe, expect, test } from '@jest/globals';
import { decimal } from '../decimal';
import { position, topUp } from './topUp';

describe('reordering', () => {
  const at = {
    free: decimal(7),
    incoming: decimal(0),
    short: decimal(0),
    reorderPoint: decimal(8),
    orderUpTo: decimal(24),
    packSize: decimal(1),
    minimum: decimal(0),
  };
  test('point 8, up to 24, free 7: propose 17, in packs of 6: 18', () => {
    expect(position(at).toFixed()).toBe('7');
    expect(topUp(at)?.toFixed()).toBe('17');
    expect(topUp({ ...at, packSize: decimal(6) })?.toFixed()).toBe('18');
  });
  test('above the point nothing is proposed; a minimum is kept; what is short counts against', () => {
    expect(topUp({ ...at, free: decimal(9) })).toBeNull();
    expect(topUp({ ...at, minimum: decimal(30) })?.toFixed()).toBe('30');
    expect(topUp({ ...at, free: decimal(0), short: decimal(6) })?.toFixed()).toBe('30');
  });
  test('at the point something is proposed; with exactly nothing missing, nothing', () => {
    expect(topUp({ ...at, free: decimal(8) })?.toFixed()).toBe('16');
    expect(topUp({ ...at, free: decimal(8), orderUpTo: decimal(8) })).toBeNull();
    expect(topUp({ ...at, free: decimal(7), orderUpTo: decimal(8) })?.toFixed()).toBe('1');
    expect(topUp({ ...at, packSize: decimal(0), minimum: decimal('17.5') })?.toFixed()).toBe('17.5');
    expect(topUp({ ...at, incoming: decimal(1), packSize: decimal(4) })?.toFixed()).toBe('16');
  });
});
