import { daysBetween, weekday } from '@larder/core/day';

/** Made once: making one takes longer than writing a thousand numbers with it. */
const writer = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

/** Thousands are set apart by a thin space; the digits stay as they are. */
const grouped = (text: string): string =>
  text.replace(
    /^(-?)(\d+)/,
    (_, sign: string, digits: string) => sign + (digits.length < 4 ? digits : writer.format(BigInt(digits)).replaceAll(',', '\u2009')),
  );

/** A quantity; zeros are left blank with `quiet`. */
export const quantity = (text: string, quiet = false): string => (quiet && Number(text) === 0 ? '' : grouped(text));

/** What is shown in place of cost to whom may not see it: it comes empty. */
const hidden = '–';

/** An amount in a currency that need not be ours: with as many decimals as it comes with. */
export const amount = (text: string): string => (text === '' ? hidden : grouped(text));

/** Amounts in several currencies, one beside the other; that in `own` currency comes first and is not said to be in it. */
export const sums = (amounts: readonly { currency: string; amount: string }[], own = ''): string =>
  amounts
    .toSorted((a, b) => Number(b.currency === own) - Number(a.currency === own))
    .map(({ currency, amount: each }) => (currency === own ? amount(each) : `${amount(each)}\u00a0${currency}`))
    .join(' + ');

/** Money: two decimals. */
export const money = (text: string): string => (text === '' ? hidden : grouped(Number.isInteger(Number(text)) && !text.includes('.') ? `${text}.00` : text));

/** A sentence of the server's with its amounts written as everywhere. */
export const amountsIn = (sentence: string): string => sentence.replace(/\b\d{4,}\.\d\d\b/g, (found) => money(found));

/** Decimals without the zeros at their end. */
function withoutZeros(part: string): string {
  let end = part.length;
  while (part.charAt(end - 1) === '0') end -= 1;
  return part.slice(0, end);
}

/** A price: at least two decimals, no superfluous zeros beyond. */
export function price(text: string): string {
  if (text === '') return hidden;
  const [whole = '0', part = ''] = text.split('.');
  return grouped(`${whole}.${withoutZeros(part).slice(0, 4).padEnd(2, '0')}`);
}

/** A price as it stands in a field: at least two decimals, every digit kept. */
export function plainPrice(text: string): string {
  const [whole = '0', part = ''] = text.split('.');
  return `${whole}.${withoutZeros(part).padEnd(2, '0')}`;
}

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const days = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const longDays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];
const longMonths = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** "Fri 20 Nov", with the year when it is another than `today`'s. */
export function shortDay(day: string, today = day): string {
  const text = `${days[weekday(day)]} ${Number(day.slice(8))} ${months[Number(day.slice(5, 7)) - 1]}`;
  return day.slice(0, 4) === today.slice(0, 4) ? text : `${text} ${day.slice(0, 4)}`;
}

/** "November 2026", of a month written as its days are: 2026-11. */
export const monthName = (month: string): string => `${longMonths[Number(month.slice(5, 7)) - 1]} ${month.slice(0, 4)}`;

export const longDay = (day: string): string => `${longDays[weekday(day)]} ${Number(day.slice(8))} ${longMonths[Number(day.slice(5, 7)) - 1]}`;

/** "today", "tomorrow", "Thu", "Thu 3 Dec", or how late it is. */
export function due(day: string | null, today: string): string {
  if (day === null) return 'no date';
  const left = daysBetween(today, day);
  if (left < 0) return left === -1 ? '1 day late' : `${-left} days late`;
  if (left === 0) return 'today';
  if (left === 1) return 'tomorrow';
  return left < 7 ? (days[weekday(day)] as string) : shortDay(day, today);
}

/** The day, and beside it how near or how late it is where that says more: "Thu 26 Nov, today", "Wed 25 Nov, 3 days late", "Sat 5 Dec". */
export function dueDay(day: string | null, today: string): string {
  const near = due(day, today);
  if (day === null) return near;
  const whole = shortDay(day, today);
  return whole.includes(near) ? whole : `${whole}, ${near}`;
}

/** The day of a moment, as a clock on this device shows it. */
const dayHere = (at: Date): string => new Date(Date.UTC(at.getFullYear(), at.getMonth(), at.getDate())).toISOString().slice(0, 10);

/** The time of day here: "14:05". */
export const clock = (at: number): string => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

/** A moment in this device's time: "Fri 20 Nov 14:05". */
export function moment(text: string): string {
  const at = new Date(text);
  return `${shortDay(dayHere(at), dayHere(new Date()))} ${clock(at.getTime())}`;
}

/** The day something is posted for, "Tue 24 Nov", when it is not the one it was posted on in this device's time. */
export function backdated(effectiveOn: string, postedAt: string): string {
  const posted = dayHere(new Date(postedAt));
  return effectiveOn === posted ? '' : shortDay(effectiveOn, posted);
}

/** "1 line", "12 lines". */
export const count = (n: number, noun: string, many = `${noun}s`): string => `${grouped(String(n))} ${n === 1 ? noun : many}`;
