import { isDay, type Day } from '../day';

export type DecimalMark = 'point' | 'comma';
export type DayForm = 'ymd' | 'dmy' | 'mdy';

const numberForms: Record<DecimalMark, RegExp> = {
  point: /^[+-]?(\d{1,3}(,\d{3})+|\d+)(\.\d+)?$/,
  comma: /^[+-]?(\d{1,3}([. ]\d{3})+|\d+)(,\d+)?$/,
};

/**
 * Which mark the numbers among these texts have: the one that all of them can be read with; what is no number with either ("24.12.2026")
 * does not count. Null when both fit or neither does, so that somebody is asked ("1.234" alone may be a thousand or one and a bit).
 */
export function decimalMarkOf(texts: readonly string[]): DecimalMark | null {
  const numbers = texts.map((text) => bare(text)).filter((text) => /[.,]/.test(text) && Object.values(numberForms).some((form) => form.test(text)));
  if (numbers.length === 0) return null;
  const fits = (mark: DecimalMark) => numbers.every((text) => numberForms[mark].test(text));
  const [point, comma] = [fits('point'), fits('comma')];
  if (point && comma) return null;
  return point ? 'point' : comma ? 'comma' : null;
}

/** A number as decimals are written here ("1234.5"), or null when it is none. Currency signs, blanks and thousands marks are left away. */
export function readNumber(text: string, mark: DecimalMark): string | null {
  const number = bare(text);
  if (!numberForms[mark].test(number)) return null;
  return mark === 'point' ? number.replaceAll(',', '') : number.replace(/[. ]/g, '').replace(',', '.');
}

const bare = (text: string): string =>
  text
    .trim()
    .replace(/^[£$€]|[£$€]$/g, '')
    .trim()
    .replace(/[\u00a0\u2009\u202f]/g, ' ');

/** Which form the days among these texts have; null when none is one, or when day and month could be either in all of them. */
export function dayFormOf(texts: readonly string[]): DayForm | null {
  const days = texts.map((text) => text.trim()).filter((text) => /^\d{1,4}[./-]\d{1,2}[./-]\d{1,4}$/.test(text));
  if (days.length === 0) return null;
  const forms = (['ymd', 'dmy', 'mdy'] as const).filter((form) => days.every((text) => readDay(text, form) !== null));
  return forms.length === 1 ? (forms[0] as DayForm) : null;
}

/** A day as `YYYY-MM-DD`, or null when the text is none in this form. Years of two digits are of this century. A time behind is left away. */
export function readDay(text: string, form: DayForm): Day | null {
  const parts = /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})(?:[T ]\d.*)?$/.exec(text.trim());
  if (!parts) return null;
  const [a = '', b = '', c = ''] = parts.slice(1);
  const [year, month, day] = { ymd: [a, b, c], dmy: [c, b, a], mdy: [c, a, b] }[form] as [string, string, string];
  if ((year.length !== 4 && year.length !== 2) || day.length > 2) return null;
  const written = `${year.length === 2 ? `20${year}` : year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
  return isDay(written) ? written : null;
}

/** A cell that a spreadsheet would run as a formula, made plain text; what is a number stays a number. */
export const neutralised = (text: string): string => (/^[=+\-@\t\r']/.test(text) && !/^[+-]?\d+(\.\d+)?$/.test(text) ? `'${text}` : text);

/** A cell as it was before it was neutralised. */
export const restored = (text: string): string => (/^'[=+\-@\t\r']/.test(text) ? text.slice(1) : text);
