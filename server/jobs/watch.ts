import type { Tx } from '../db/database';
import { preparedWrite } from '../db/prepared';
import { outbox } from '../db/schema/index';
import { ring } from './outbox';

const writeWatch = preparedWrite(['itemIds'], (db, { itemIds }) => db.insert(outbox).values({ task: 'watch', payload: itemIds as never, about: 'watch' }));

/** Has it looked at, once this is kept, whether something is to be told of these items. It goes with the end of the transaction, and nobody waits for it. */
export function watchItems(tx: Tx, itemIds: readonly number[]): void {
  if (tx.readOnly || itemIds.length === 0) return;
  tx.lastly(writeWatch(tx, { itemIds: [...new Set(itemIds)] }));
  tx.after(ring);
}
