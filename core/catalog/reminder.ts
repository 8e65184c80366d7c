import { addDays, isDay, type Day } from '../day';

/** The day somebody is reminded of a date: so many days before (negative) or after it. Null when nothing reminds, or the value is no day. */
export const remindsOn = (value: string, reminderDays: number | null): Day | null =>
  reminderDays === null || !isDay(value) ? null : addDays(value, reminderDays);
