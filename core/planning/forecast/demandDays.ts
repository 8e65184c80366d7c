/** A day of the past of an item at a site. */
export interface DemandDay {
  /** Base units that orders of this day wanted, whether there were any or not. */
  wanted: number;
  /** Something of it was free to be promised. */
  there: boolean;
  /** Marked not to count, such as the days of a fair. */
  apart: boolean;
}

/** Days that stand for what would be wanted of an item that is always there. */
export interface FilledDays {
  /** Day by day, the oldest first. */
  wanted: number[];
  /** So many of them were filled, since nothing was there and nothing was asked for, and so many since they do not count. */
  withoutStock: number;
  apart: number;
}

/** Days to both sides from which a day is filled. */
const around = 14;

/**
 * Fills days that do not tell what is wanted: those on which nothing was there and nothing was asked for either, and those that are marked not to count.
 * Each takes what was wanted on average on the days that
 * count within two weeks before and after it, else on all that count. What was ordered though nothing was there was wanted, and counts.
 */
export function filledDays(days: readonly DemandDay[]): FilledDays {
  const counts = days.map(({ wanted, there, apart }) => !apart && (there || wanted > 0));
  const known = days.filter((_, at) => counts[at]).map(({ wanted }) => wanted);
  const overall = average(known) ?? 0;
  const near = (at: number) => {
    const from = Math.max(0, at - around);
    return average(days.slice(from, at + around + 1).flatMap(({ wanted }, index) => (counts[from + index] === true ? [wanted] : [])));
  };
  return {
    wanted: days.map(({ wanted }, at) => (counts[at] === true ? wanted : (near(at) ?? overall))),
    withoutStock: days.filter(({ apart }, at) => counts[at] !== true && !apart).length,
    apart: days.filter(({ apart }) => apart).length,
  };
}

const average = (values: readonly number[]): number | null => (values.length === 0 ? null : values.reduce((all, value) => all + value, 0) / values.length);

/** What was wanted in each of the whole periods of so many days that end with the last day, the oldest first; days before the first whole period are left out. */
export function inPeriods(perDay: readonly number[], length: number): number[] {
  const whole = Math.floor(perDay.length / length);
  const begin = perDay.length - whole * length;
  return Array.from({ length: whole }, (_, nth) => perDay.slice(begin + nth * length, begin + (nth + 1) * length).reduce((all, value) => all + value, 0));
}
