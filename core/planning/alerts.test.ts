import { expect, test } from '@jest/globals';
import { isRoundUpDue, isTimeOfDay, isWanted, roundUpText, type AlertOf, type AlertWish } from './alerts';

const low: AlertOf = { kind: 'low', siteId: 1, categoryId: 4 };
const wish = (part: Partial<AlertWish>): AlertWish => ({ kind: 'low', siteIds: null, categoryIds: null, ...part });

test('somebody is told of what they chose, of their sites and categories', () => {
  expect(isWanted(wish({}), low)).toBe(true);
  expect(isWanted(wish({ kind: 'out' }), low)).toBe(false);
  expect([isWanted(wish({ siteIds: [1] }), low), isWanted(wish({ siteIds: [2] }), low)]).toEqual([true, false]);
  expect([isWanted(wish({ categoryIds: [4] }), low), isWanted(wish({ categoryIds: [5] }), low)]).toEqual([true, false]);
  expect(isWanted(wish({ siteIds: [2], categoryIds: [5] }), { ...low, siteId: null, categoryId: null })).toBe(true);
});

test('a round-up comes once a day, late when the clock jumped over its time, and not again when it goes back', () => {
  const at = { at: '07:30', today: '2026-03-10', last: '2026-03-09' };
  expect([isRoundUpDue({ ...at, now: '07:29' }), isRoundUpDue({ ...at, now: '07:30' }), isRoundUpDue({ ...at, now: '19:00' })]).toEqual([false, true, true]);
  expect(isRoundUpDue({ ...at, now: '07:31', last: '2026-03-10' })).toBe(false);
  expect(isRoundUpDue({ ...at, now: '23:00', today: '2026-03-09', last: '2026-03-10' })).toBe(false);
  expect(isRoundUpDue({ ...at, now: '07:31', last: null })).toBe(true);
  expect(['07:30', '7:30', '24:00', '23:59', '12:60'].map(isTimeOfDay)).toEqual([true, false, false, true, false]);
});

test('a round-up is one letter, kind by kind, however much there is', () => {
  const one = roundUpText([{ kind: 'out', text: 'JAR at Barn is out of stock' }], 'https://larder.test');
  expect(one.subject).toBe('Round-up: 1 thing to look at');
  expect(one.text).toBe(
    'Out of stock (1)\n  JAR at Barn is out of stock\n\nOpen them: https://larder.test/alerts\nChange what you are told: https://larder.test/alerts/settings',
  );
  const many = roundUpText(
    [...Array.from({ length: 5000 }, (_, n) => ({ kind: 'low' as const, text: `IT-${n} is low` })), { kind: 'late', text: 'SO-1 is late' }],
    '',
  );
  expect(many.text.split('\n').length).toBeLessThan(220);
  expect(many.text).toContain('Low (5000)');
  expect(many.text).toContain('and 4800 more');
  expect(many.text).toContain('Late to ship (1)\n  and 1 more');
});
