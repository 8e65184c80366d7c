/**
 * The check digit of a GTIN-8, 12, 13 or 14 without it (GS1 General Specifications, 7.9): weights 3 and 1 from the right, up to the next ten.
 * Throws RangeError when `digits` is anything but digits.
 */
export function gtinCheckDigit(digits: string): string {
  if (!/^\d+$/.test(digits)) throw new RangeError('A GTIN is made of digits.');
  return String(checkDigitOf(digits, digits.length));
}

/** The same for the first so many of some digits. */
function checkDigitOf(digits: string, length: number): number {
  let total = 0;
  for (let at = length - 1, weight = 3; at >= 0; at -= 1, weight = 4 - weight) total += (digits.charCodeAt(at) - 48) * weight;
  return (10 - (total % 10)) % 10;
}

/** Whether the last of the digits is the one it should be. */
const isRight = (code: string): boolean => code.charCodeAt(code.length - 1) - 48 === checkDigitOf(code, code.length - 1);

const lengths = new Set([8, 12, 13, 14]);

/** Whether a code has the form of a GTIN-8, 12, 13 or 14, its check digit left aside. */
export const looksLikeGtin = (code: string): boolean => lengths.has(code.length) && /^\d+$/.test(code);

/** What is wrong with a code that looks like a GTIN, or null. Other codes are nobody's business. */
export function gtinFault(code: string): string | null {
  if (!looksLikeGtin(code) || isRight(code)) return null;
  return `The check digit of ${code} should be ${gtinCheckDigit(code.slice(0, -1))}; one digit was mistyped.`;
}

/** A GTIN with its right check digit in the form codes are compared in: without the leading zeros that a longer form adds. Other codes stay as they are. */
export const sameGtin = (code: string): string => (looksLikeGtin(code) && isRight(code) ? code.replace(/^0+/, '') : code);

/**
 * The n-th barcode of our own: a GTIN-13 that begins with 29, from the numbers GS1 leaves to a business's own use (General Specifications,
 * 2.1.11, restricted circulation).
 */
export function ownBarcode(n: number): string {
  const digits = `29${String(n).padStart(10, '0')}`;
  return digits + gtinCheckDigit(digits);
}
