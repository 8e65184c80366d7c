import { decimal, sum } from '../decimal';

/** Something that a figure is made of; amounts are decimals as text. */
export interface ExplainedPart<D = unknown> {
  what: string;
  document: D | null;
  day: string | null;
  by: 'plus' | 'times' | 'over';
  amount: string;
}

/** A part without a document. */
export const plainPart = (what: string, amount: string, by: ExplainedPart['by'] = 'plus'): ExplainedPart<never> => ({
  what,
  document: null,
  day: null,
  by,
  amount,
});

/**
 * A figure as its last changes (given newest first) and all that was before them, which take it to `total` exactly.
 * What came before is left out where it comes to nothing and there is something after it.
 */
export function sinceThen<P extends ExplainedPart>(total: string, changes: readonly P[]): (P | ExplainedPart<never>)[] {
  const before = decimal(total).minus(sum(changes.map(({ amount }) => decimal(amount))));
  const parts = [...changes].reverse();
  return before.isZero() && parts.length > 0 ? parts : [plainPart(parts.length > 0 ? 'All before' : 'Never any', before.toFixed()), ...parts];
}

/** The largest parts of a figure, and the rest of them as one, so that at most `most` are shown. Parts add up to what they added up to before. */
export function foremost<P extends ExplainedPart>(parts: readonly P[], most: number): (P | ExplainedPart<never>)[] {
  if (parts.length <= most) return [...parts];
  const shown = [...parts].sort((a, b) => decimal(b.amount).abs().comparedTo(decimal(a.amount).abs())).slice(0, most - 1);
  const rest = parts.filter((part) => !shown.includes(part));
  return [...parts.filter((part) => shown.includes(part)), plainPart(`${rest.length} more`, sum(rest.map(({ amount }) => decimal(amount))).toFixed())];
}
