/**
 * The check digit of a GTIN-8, 12, 13 or 14 without it (GS1 General Specifications, 7.9): weights 3 and 1 from the right, up to the next ten.
 * Throws RangeError when `digits` is anything but digits.
 */
export function gtinCheckDigit(digits: string): string {
  if (!/^\d+$/.test(digits)) throw new RangeError('A GTIN is made of digits.');
  const total = [...digits].reverse().reduce((sum, digit, index) => sum + Number(digit) * (index % 2 === 0 ? 3 : 1), 0);
  return String((10 - (total % 10)) % 10);
}
