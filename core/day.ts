/** A calendar day as `YYYY-MM-DD`, in the company's time zone. */
export type Day = string;

const dayMs = 86_400_000;
const at = (day: Day): number => Date.parse(`${day}T00:00:00Z`);

/** The day `days` after `day` (before it when negative). */
export const addDays = (day: Day, days: number): Day => new Date(at(day) + days * dayMs).toISOString().slice(0, 10);

/** The last day of a month that is written as `2026-03`. */
export function lastOfMonth(month: string): Day {
  const [year, nth] = month.split('-').map(Number) as [number, number];
  return addDays(`${nth === 12 ? year + 1 : year}-${String((nth % 12) + 1).padStart(2, '0')}-01`, -1);
}

/** Whole days from `from` to `to`; negative when `to` is earlier. */
export const daysBetween = (from: Day, to: Day): number => Math.round((at(to) - at(from)) / dayMs);

/** 0 for Sunday to 6 for Saturday. */
export const weekday = (day: Day): number => new Date(at(day)).getUTCDay();

/** `day` moved past Saturdays and Sundays. */
export function nextWorkday(day: Day): Day {
  const shift = [1, 0, 0, 0, 0, 0, 2][weekday(day)] ?? 0;
  return addDays(day, shift);
}

/** Writers of days by time zone: making one takes longer than using it a thousand times. */
const writers = new Map<string, Intl.DateTimeFormat>();
function writerFor(timeZone: string): Intl.DateTimeFormat {
  const writer = writers.get(timeZone) ?? new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' });
  writers.set(timeZone, writer);
  return writer;
}

/** The day a moment falls on in a time zone, such as "Europe/London". */
export function dayOf(moment: Date, timeZone: string): Day {
  const parts = writerFor(timeZone).formatToParts(moment);
  const part = (type: string) => parts.find((p) => p.type === type)?.value ?? '';
  return `${part('year')}-${part('month')}-${part('day')}`;
}

const longMonths = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** "21 November 2026". */
export const dayInWords = (day: Day): string => `${Number(day.slice(8))} ${longMonths[Number(day.slice(5, 7)) - 1]} ${day.slice(0, 4)}`;

const shortNames = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'];

/** Where the days of a field lie: what is to come, or what has happened. */
export type Lies = 'ahead' | 'behind';

/**
 * A day typed the short way: "today", "tomorrow", "yesterday", "+7", "fri", "24/11", "24/11/27", "2026-11-24".
 * A day and month without a year means the nearest such day on the side where the field's days lie, today included;
 * a weekday the nearest one on that side, today left out. Returns null when it is no day.
 */
export function parseDay(text: string, today: Day, lies: Lies = 'ahead'): Day | null {
  const typed = text.trim().toLowerCase();
  const near = { today: 0, tomorrow: 1, yesterday: -1 }[typed];
  if (near !== undefined) return addDays(today, near);
  const plus = /^([+-]\d{1,4})$/.exec(typed);
  if (plus) return addDays(today, Number(plus[1]));
  const name = shortNames.indexOf(typed.slice(0, 3));
  if (name >= 0 && /^[a-z]+$/.test(typed)) {
    const on = (name - weekday(today) + 7) % 7 || 7;
    return addDays(today, lies === 'ahead' ? on : on - 7 || -7);
  }
  if (/^\d{4}-\d{2}-\d{2}$/.test(typed)) return isDay(typed) ? typed : null;
  const parts = /^(\d{1,2})[/. -](\d{1,2})(?:[/. -](\d{2}|\d{4}))?$/.exec(typed);
  if (!parts) return null;
  const write = (year: number) => `${year}-${(parts[2] ?? '').padStart(2, '0')}-${(parts[1] ?? '').padStart(2, '0')}`;
  if (parts[3]) return valid(write(Number(parts[3].length === 2 ? `20${parts[3]}` : parts[3])));
  const year = Number(today.slice(0, 4));
  const thisYear = write(year);
  const ahead = lies === 'ahead';
  return isDay(thisYear) && (thisYear === today || thisYear > today === ahead) ? thisYear : valid(write(year + (ahead ? 1 : -1)));
}

const valid = (day: Day): Day | null => (isDay(day) ? day : null);

/** Whether the text is a day that exists, written `YYYY-MM-DD`, in a year that anybody here deals with: 1900 to 2199. */
export function isDay(text: string): boolean {
  return /^(19|20|21)\d{2}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(at(text)) && addDays(text, 0) === text;
}
