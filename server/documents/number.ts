import { eq, sql } from 'drizzle-orm';
import type { NumberedKind } from '@larder/contract/setupLists';
import type { Act } from '../act';
import { counter } from '../db/schema/index';

/** Takes the next number of a kind of document. Called last: the counter's row stays locked until the end. */
export const nextNumber = async (act: Act, kind: NumberedKind): Promise<string> => (await takeNumber(act, kind)).number;

/** The same, with the running number in it. */
export async function takeNumber({ tx }: Act, kind: NumberedKind): Promise<{ number: string; running: number }> {
  const [row] = await tx.db
    .update(counter)
    .set({ next: sql`${counter.next} + 1` })
    .where(eq(counter.kind, kind))
    .returning({ number: sql<string>`${counter.prefix} || (${counter.next} - 1)`, running: sql<number>`${counter.next} - 1` });
  if (!row) throw new Error(`there is no counter for ${kind}`);
  return row;
}
