import { decimal, type Decimal } from './decimal';

/** Digits before and after the point, whether a sign may stand in front, and the sentence that says so. */
interface NumberForm {
  digits: number;
  decimals: number;
  signed?: 'minus' | 'either';
  sentence: string;
}

/** The numbers that people type, by what they are. */
const forms = {
  quantity: { digits: 9, decimals: 4, sentence: 'Give a quantity such as 12 or 0.5, below 1,000,000,000, with at most 4 decimals.' },
  quantityOrNone: { digits: 9, decimals: 4, sentence: 'Give a quantity such as 12, 0.5 or 0, below 1,000,000,000, with at most 4 decimals.' },
  difference: { digits: 9, decimals: 4, signed: 'either', sentence: 'Give a difference such as 3 or -2, with at most 4 decimals.' },
  price: { digits: 9, decimals: 6, sentence: 'Give a price such as 12.50, with at most 6 decimals.' },
  /** In the currency of the business. */
  money: { digits: 12, decimals: 2, sentence: 'Give an amount such as 640.00.' },
  /** In any currency. */
  amount: { digits: 12, decimals: 4, sentence: 'Give an amount such as 640.00.' },
  /** The same, which may be below zero. */
  signedAmount: { digits: 12, decimals: 4, signed: 'minus', sentence: 'Give an amount such as 640.00 or -12.50.' },
  rate: { digits: 6, decimals: 8, sentence: 'Give a rate such as 0.8562.' },
  measure: { digits: 8, decimals: 4, sentence: 'Give a number such as 1.25.' },
  percent: { digits: 3, decimals: 2, signed: 'either', sentence: 'Give per cent such as 5 or -2.5.' },
  fact: { digits: 12, decimals: 6, signed: 'minus', sentence: 'Give a number such as 12.5.' },
} satisfies Record<string, NumberForm>;
export type NumberKind = keyof typeof forms;

/** What a number of this kind looks like, without what is around it. */
export const numberPart = (kind: NumberKind): string => {
  const { digits, decimals, signed }: NumberForm = forms[kind];
  return `${signed === undefined ? '' : signed === 'minus' ? '-?' : '[+-]?'}\\d{1,${digits}}(?:\\.\\d{1,${decimals}})?`;
};
const patterns = new Map((Object.keys(forms) as NumberKind[]).map((kind) => [kind, new RegExp(`^${numberPart(kind)}$`)]));

/** The whole of a text that is a number of this kind. */
export const numberPattern = (kind: NumberKind): RegExp => patterns.get(kind) as RegExp;
/** What is said of a text that is none. */
export const numberSentence = (kind: NumberKind): string => forms[kind].sentence;

/** Whether a text is a number of this kind; spaces around it do not count. */
export const isNumber = (text: string, kind: NumberKind): boolean => numberPattern(kind).test(text.trim());

/** The number that was typed, or null for a text that is none of this kind. */
export const readNumber = (text: string, kind: NumberKind): Decimal | null => (isNumber(text, kind) ? decimal(text.trim()) : null);
