import { sql, type Placeholder } from 'drizzle-orm';
import type { Db, Tx } from './database';

interface Preparable<R> {
  prepare: (name: string) => { execute: (values?: Record<string, unknown>) => Promise<R> };
}

let count = 0;

/**
 * A statement that is put together once on each connection, for what is asked all day: `build` gets a placeholder for each of `names`.
 * Answers what asks it, with a value for each name.
 */
export function prepared<const N extends string, R>(
  names: readonly N[],
  build: (db: Db, value: Record<N, Placeholder>) => Preparable<R>,
): (tx: Pick<Tx, 'db'>, values: Record<N, unknown>) => Promise<R> {
  const name = `prepared_${(count += 1)}`;
  const made = new WeakMap<Db, ReturnType<Preparable<R>['prepare']>>();
  return ({ db }, values) => {
    let statement = made.get(db);
    if (!statement) {
      const value = Object.fromEntries(names.map((each) => [each, sql.placeholder(each)])) as unknown as Record<N, Placeholder>;
      statement = build(db, value).prepare(name);
      made.set(db, statement);
    }
    return statement.execute(values);
  };
}
