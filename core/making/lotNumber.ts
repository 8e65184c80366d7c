import { addDays, type Day } from '../day';

/** What stands in the pattern of a lot number for something of the lot, with what it stands for. */
export const lotMarks = {
  yyyy: 'the year',
  yy: 'the year, two digits',
  mm: 'the month',
  dd: 'the day',
  order: 'the work order',
  n: 'which record of the order it is: 1, 2, 3',
} as const;
type Mark = keyof typeof lotMarks;

/** Of what a lot is that is made. */
export interface LotMade {
  /** The day it is made. */
  day: Day;
  /** The number of its work order. */
  order: string;
  /** 1 for the first record of the order, 2 for the next. */
  nth: number;
}

const marksIn = /\{([^{}]*)\}/g;
/** A lot number is a code: so many characters at most. */
const mostCharacters = 60;
/** The longest a number of a work order is, and of its records. */
const longest: LotMade = { day: '2026-12-31', order: 'WO-'.padEnd(16, '9'), nth: 9999 };

/** What is wrong with the pattern of a lot number, as a sentence; null when nothing is. */
export function lotPatternFault(pattern: string): string | null {
  if (pattern.trim() === '') return 'Say what lot numbers are made of, such as {order}-{n}.';
  const unknown = [...pattern.matchAll(marksIn)].find(([, mark = '']) => !Object.hasOwn(lotMarks, mark));
  if (unknown) return `${unknown[0]} stands for nothing. Known are ${marksInWords}.`;
  if (/[{}]/.test(pattern.replaceAll(marksIn, ''))) return 'A brace is open: write each mark in two, such as {order}.';
  if (!/\{(order|dd)\}/.test(pattern)) return 'With neither {order} nor {dd} the lots of many days would have one number.';
  if (lotNumber(pattern, longest).length > mostCharacters) return 'That makes lot numbers of more than 60 characters.';
  return null;
}

const marksInWords = Object.keys(lotMarks)
  .map((mark) => `{${mark}}`)
  .join(', ')
  .replace(/, ([^,]*)$/, ' and $1');

/** The number of a lot that is made, by the business's pattern. */
export function lotNumber(pattern: string, { day, order, nth }: LotMade): string {
  const [yyyy = '', mm = '', dd = ''] = day.split('-');
  const marks: Record<Mark, string> = { yyyy, yy: yyyy.slice(2), mm, dd, order, n: String(nth) };
  return pattern.trim().replaceAll(marksIn, (whole, mark: string) => (Object.hasOwn(marks, mark) ? marks[mark as Mark] : whole));
}

/** The last day that something made on a day is used: after `shelfLife` days; null when it does not spoil. */
export const usedBy = (day: Day, shelfLife: number | null): Day | null => (shelfLife === null ? null : addDays(day, shelfLife));
