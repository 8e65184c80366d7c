/** One way in which members of a family differ, with its values in order. */
export interface Axis {
  name: string;
  values: readonly AxisValue[];
}

export interface AxisValue {
  name: string;
  /** What stands for the value in a SKU. */
  code: string;
}

export const mostAxes = 3;
export const mostMembers = 2000;
/** More members than that are made only when the person has said so. */
export const manyMembers = 200;

/** Values typed or pasted: apart by commas, semicolons, tabs or lines; the same value again is left out. */
export function parseValues(text: string): string[] {
  const seen = new Set<string>();
  return text
    .split(/[,;\t\n\r]+/)
    .map((value) => value.trim().replace(/\s+/g, ' '))
    .filter((value) => value !== '' && !seen.has(value.toLowerCase()) && seen.add(value.toLowerCase()));
}

/** Every combination of one value from each axis, the last axis turning fastest. No axes, or an axis without values: none. */
export function combinations(axes: readonly Axis[]): AxisValue[][] {
  if (axes.length === 0) return [];
  return axes.reduce<AxisValue[][]>((sofar, axis) => sofar.flatMap((one) => axis.values.map((value) => [...one, value])), [[]]);
}

/**
 * Capital letters and digits that stand for words: of one word the first three letters, of several their initials, numbers whole
 * with the letter behind ("340 g" is 340G, "Gold lid" GL, "Smoker" SMO). Accents are dropped.
 */
export function shortCode(words: string): string {
  const parts = words
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toUpperCase()
    .match(/\d+[.,]?\d*|[A-Z]+/g);
  if (!parts) return '';
  const letters = parts.filter((part) => /^[A-Z]/.test(part));
  const code = parts.map((part) =>
    /^\d/.test(part) ? part.replace(/[.,]/, '') : letters.length === 1 && parts.length === 1 ? part.slice(0, 3) : part.slice(0, 1),
  );
  return code.join('').slice(0, 12);
}

/** The pattern proposed for so many axes: the family's code and each value's, apart by dashes. */
export const proposedPattern = (axes: readonly { name: string }[]): string => ['{name}', ...axes.map(({ name }) => `{${name}}`)].join('-');

/**
 * A SKU from a pattern: `{name}` is the family's code, `{Size}` the code of the value on the axis called Size, `{Size:axis}` the code of
 * the axis itself; all else stays as it is. Unknown names in braces stay, so that they are seen.
 */
export function skuFrom(pattern: string, familyCode: string, axes: readonly { name: string }[], values: readonly AxisValue[]): string {
  return pattern.replace(/\{([^{}]+)\}/g, (whole, inner: string) => {
    const [name = '', part] = inner.split(':').map((text) => text.trim());
    if (name.toLowerCase() === 'name' && part === undefined) return familyCode;
    const at = axes.findIndex((axis) => axis.name.toLowerCase() === name.toLowerCase());
    if (at < 0) return whole;
    if (part === 'axis') return shortCode(axes[at]?.name ?? '');
    return part === undefined ? (values[at]?.code ?? whole) : whole;
  });
}

/** The name a member has unless it was given its own: the family's and its values. */
export const memberName = (familyName: string, values: readonly { name: string }[]): string => [familyName, ...values.map(({ name }) => name)].join(', ');

/** Facts that a family keeps for its members, and a member may have of its own. */
export const sharedFacts = [
  'name',
  'description',
  'unitId',
  'brand',
  'categoryId',
  'taxCodeId',
  'returnable',
  'kind',
  'maker',
  'inventoryAccountId',
  'costAccountId',
  'salesAccountId',
] as const;
export type SharedFact = (typeof sharedFacts)[number];
