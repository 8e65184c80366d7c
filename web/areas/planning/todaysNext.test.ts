import { describe, expect, test } from '@jest/globals';
import { todaysNext } from './todaysNext';

type Today = Parameters<typeof todaysNext>[0];
const nobody = { receive: false, ship: false, sell: false, topUp: false };
const day = (part: Partial<Today> = {}): Today => ({
  day: '2026-11-28',
  counts: { comingIn: 0, low: 0, goingOut: 0, quotes: 0, making: 0 },
  comingIn: [],
  goingOut: [],
  low: [],
  cover: [],
  served: [],
  toCount: [],
  unbooked: [],
  ...part,
});
const coming = (number: string, expectedOn: string | null) => ({ id: 7, number, expectedOn }) as Today['comingIn'][number];
const going = { id: 9, number: 'SO-9' } as Today['goingOut'][number];
const busy = day({
  comingIn: [coming('PO-1', null), coming('PO-2', '2026-12-04'), coming('PO-3', '2026-11-28')],
  goingOut: [going],
  low: [{ itemId: 1 } as Today['low'][number]],
  counts: { comingIn: 3, low: 1, goingOut: 1, quotes: 2, making: 0 },
});

describe('the next step of the day', () => {
  test('is what should be here by now, for who receives', () => {
    expect(todaysNext(busy, { ...nobody, receive: true, ship: true })).toEqual({ label: 'Receive PO-3', to: '/inbound/desk?order=7' });
    expect(todaysNext(day({ comingIn: [coming('PO-2', '2026-12-04'), coming('PO-1', null)] }), { ...nobody, receive: true })).toBeNull();
  });
  test('is what must go out, for who picks and sends', () => {
    expect(todaysNext(busy, { ...nobody, ship: true, sell: true })).toEqual({ label: 'Open SO-9', to: '/outbound/orders/9' });
  });
  test('at the sales desk is a quote, one that waits or a new one', () => {
    expect(todaysNext(busy, { ...nobody, sell: true })?.to).toBe('/outbound?show=quotes');
    expect(todaysNext(day(), { ...nobody, sell: true })).toEqual({ label: 'Write a quote', to: '/outbound/orders/new' });
  });
  test('is to reorder, for who does, when nothing else waits', () => {
    expect(todaysNext(busy, { ...nobody, topUp: true })).toEqual({ label: 'Top up 1 item', to: '/planning' });
  });
  test('is the first step that was not done yet, where nothing waits', () => {
    const first = (done: boolean[], away = false) => ({
      away,
      of: 'business' as const,
      steps: (['places', 'items', 'opening'] as const).map((key, index) => ({ key, done: done[index] ?? false })),
    });
    expect(todaysNext(day(), { ...nobody, sell: true }, first([true, false, false]))).toEqual({ label: 'Set up the first item', to: '/items/new' });
    expect(todaysNext(day(), nobody, first([false]))).toEqual({ label: 'Set up the first bins', to: '/setup' });
    expect(todaysNext(day(), nobody, first([false], true))).toBeNull();
    expect(todaysNext(day(), { ...nobody, sell: true }, first([true, true, true]))?.label).toBe('Write a quote');
    expect(todaysNext(busy, { ...nobody, ship: true }, first([false]))?.label).toBe('Open SO-9');
  });
  test('is none for somebody who only looks, and none on a quiet day', () => {
    expect(todaysNext(busy, nobody)).toBeNull();
    expect(todaysNext(day(), { ...nobody, receive: true, ship: true, topUp: true })).toBeNull();
  });
});
