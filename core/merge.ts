import equal from 'fast-deep-equal';

/** What tells the rows of a list apart. Where rows say what somebody else keeps as well, like how many there are: which parts of a row are typed; all others are always theirs. */
export type RowsApart<R> = ((row: R) => string) | { key: (row: R) => string; typed: readonly (keyof R)[] };
/** For each list of a form: what tells its rows apart. */
export type RowKeys<F> = { [K in keyof F]?: F[K] extends readonly (infer R)[] ? RowsApart<R> : never };

/** Something that both changed: what it would be if theirs is taken. */
export interface Clash<F, K extends keyof F = keyof F> {
  field: K;
  theirs: F[K];
}

/**
 * A form that two people wrote on from the same `base`: what only one of them changed is taken from whoever changed it, of lists row by row;
 * where both changed the same, mine stands and is listed.
 */
export function merged<F extends object>(base: F, mine: F, theirs: F, rowKeys: RowKeys<F> = {}): { form: F; clashes: Clash<F>[] } {
  const form = { ...mine };
  const clashes: Clash<F>[] = [];
  for (const field of Object.keys(theirs) as (keyof F)[]) {
    const apart = rowKeys[field] as RowsApart<object> | undefined;
    const parts = [base[field], mine[field], theirs[field]] as const;
    const won = (winner: Winner) =>
      (apart ? mergedRows(parts as unknown as Three<readonly object[]>, apart, winner) : mergedValue(parts, winner)) as F[typeof field];
    form[field] = won('mine');
    const other = won('theirs');
    if (!equal(form[field], other)) clashes.push({ field, theirs: other });
  }
  return { form, clashes };
}

type Winner = 'mine' | 'theirs';
type Three<T> = readonly [base: T, mine: T, theirs: T];

function mergedValue<T>([base, mine, theirs]: Three<T>, winner: Winner): T {
  return equal(mine, base) || (winner === 'theirs' && !equal(theirs, base)) ? theirs : mine;
}

/** Rows in the order they now have for the others, then those that only I added. A row that one of them changed and the other took away is kept or gone as the winner has it. */
function mergedRows([base, mine, theirs]: Three<readonly object[]>, apart: RowsApart<object>, winner: Winner): object[] {
  const keyOf = typeof apart === 'function' ? apart : apart.key;
  const [inBase, inMine, inTheirs] = [base, mine, theirs].map((rows) => keyed(rows, keyOf)) as [Rows, Rows, Rows];
  const keys = [...new Set([...inTheirs.keys(), ...inMine.keys()])];
  return keys.flatMap((key) => {
    const facts = inTheirs.get(key);
    const three = [inBase.get(key), inMine.get(key), facts] as const;
    if (typeof apart === 'function' || !facts) return mergedValue(three, winner) ?? [];
    // What was taken away here stays away.
    if (!three[1]) return mergedValue(three, winner) ?? [];
    const [was, mine] = [three[0] ?? {}, three[1]] as [Record<string, unknown>, Record<string, unknown>];
    const typed = apart.typed.map((part) => [part, mergedValue([was[part], mine[part], facts[part]], winner)]);
    return { ...facts, ...(Object.fromEntries(typed) as object) };
  });
}

type Rows = Map<string, object>;

/** A field may be drawn a moment before its row comes into the form: until then there is no row, or one in which nothing stands. */
const isThere = (row: object | undefined | null): boolean => Boolean(row) && Object.values(row ?? {}).some((value) => value !== undefined);

/** Rows by what tells them apart; the second of the same is told apart from the first. */
function keyed(rows: readonly object[], keyOf: (row: object) => string): Rows {
  const found: Rows = new Map();
  for (const row of rows.filter(isThere)) {
    const key = keyOf(row);
    let nth = 1;
    while (found.has(`${key} ${nth}`)) nth += 1;
    found.set(`${key} ${nth}`, row);
  }
  return found;
}
