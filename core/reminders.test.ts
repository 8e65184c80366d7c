import { expect, test } from '@jest/globals';
import { daysInWords, dueInWords, isToRemind, remindOn } from './reminders';

test('so many days before, on the day or after it', () => {
  expect([-3, 0, 1].map((days) => remindOn('2026-03-01', days))).toEqual(['2026-02-26', '2026-03-01', '2026-03-02']);
  expect([-3, -1, 0, 1, 2].map(daysInWords)).toEqual(['3 days before', '1 day before', 'on the day', '1 day after', '2 days after']);
});

test.each<[string, number, string, string | null, boolean]>([
  ['its day has come', -3, '2026-03-07', null, true],
  ['it has not come yet', -3, '2026-03-06', null, false],
  ['it could not be sent before', -3, '2026-03-14', null, true],
  ['it is long past', -3, '2026-03-15', null, false],
  ['it was set after that', -3, '2026-03-08', '2026-03-08', false],
  ['it was set on that day', -3, '2026-03-07', '2026-03-07', true],
])('%s', (_, days, today, since, is) => expect(isToRemind('2026-03-10', days, { today, since })).toBe(is));

test('what it says of the day', () => {
  expect(dueInWords('due', '2026-03-10', '2026-03-10', '10 March')).toBe('is due today');
  expect(dueInWords('due', '2026-03-09', '2026-03-10', '9 March')).toBe('was due on 9 March');
  expect(dueInWords('use-by', '2026-03-13', '2026-03-10', '13 March')).toBe('is at its use-by day on 13 March');
});
