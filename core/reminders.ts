import { addDays, type Day } from './day';

/** What a reminder can be about: the day a loan is due, the use-by day of lots, or a day of the business's own attributes. */
export const remindedOf = ['loan', 'use-by', 'attribute'] as const;
export type RemindedOf = (typeof remindedOf)[number];

/** The day on which somebody is reminded of a day: so many days before it (below zero), after it, or on it. */
export const remindOn = (day: Day, days: number): Day => addDays(day, days);

/** A reminder that could not be sent on its day, because nothing ran, is sent as long as this later. */
export const latestDays = 7;

/** Whether a reminder of a day is to be sent now: its day has come, not long ago, and not before it was set. */
export const isToRemind = (day: Day, days: number, { today, since }: { today: Day; since: Day | null }): boolean => {
  const on = remindOn(day, days);
  return on <= today && on >= addDays(today, -latestDays) && (since === null || on >= since);
};

/** "3 days before", "on the day", "1 day after". */
export const daysInWords = (days: number): string => {
  const count = `${Math.abs(days)} ${Math.abs(days) === 1 ? 'day' : 'days'}`;
  return days === 0 ? 'on the day' : `${count} ${days < 0 ? 'before' : 'after'}`;
};

/** How a day lies from today, in words that follow what it is: "was due on 3 March", "is due today", "is due in 3 days, on 13 March". */
export function dueInWords(what: 'due' | 'use-by' | 'day', day: Day, today: Day, said: string): string {
  const verb = what === 'due' ? 'due' : what === 'use-by' ? 'at its use-by day' : 'dated';
  if (day === today) return `is ${verb} today`;
  return day < today ? `was ${verb} on ${said}` : `is ${verb} on ${said}`;
}
