import { decimal, type Decimal } from '@larder/core/decimal';
import { and, eq, gt, isNotNull, lte, notExists, notInArray, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { given, orNull } from '../db/given';
import { balance, binCount, movement, movementLine } from '../db/schema/index';
import { lock } from '../ledger/lock';

/** Something that was counted in a bin while `seq` was the last movement known of its item. */
export interface Looked {
  itemId: number;
  lotId: number | null;
  binId: number;
  seq: number;
}

/** What the bin is known to have held then, and when it was counted later than that, if it was. */
export interface HeldThen {
  held: Decimal;
  countedLater: string | null;
}

const undo = alias(movement, 'undo');

/**
 * What each bin held of something at the moment it was counted, as far as the records are right: the balance now, less what was moved since.
 * What another count of the same moment, or an earlier one, put right since is no goods that moved: whoever counted saw that already.
 */
export async function heldThen(act: Act, looked: readonly Looked[]): Promise<HeldThen[]> {
  await lock.pools(
    act,
    looked.map(({ itemId }) => itemId),
  );
  const { rows: asked, row } = given(
    'asked',
    { at: movementLine.seq, itemId: balance.itemId, placeId: balance.placeId, lotId: orNull(balance.lotId), seq: movementLine.seq },
    looked.map(({ itemId, binId, lotId, seq }, at) => ({ at, itemId, placeId: binId, lotId, seq })),
  );
  const { db } = act.tx;
  const now = db
    .select({ quantity: balance.quantity })
    .from(balance)
    .where(and(eq(balance.itemId, row.itemId), eq(balance.placeId, row.placeId), sql`${balance.lotId} is not distinct from ${row.lotId}`));
  const sameThere = and(eq(binCount.itemId, row.itemId), eq(binCount.placeId, row.placeId), sql`${binCount.lotId} is not distinct from ${row.lotId}`);
  const putRight = db
    .select({ id: sql`${binCount.movementId}` })
    .from(binCount)
    .where(and(sameThere, lte(binCount.seq, row.seq), isNotNull(binCount.movementId)));
  const came = sql`(${movementLine.toPlaceId} = ${row.placeId})::int - (${movementLine.fromPlaceId} = ${row.placeId})::int`;
  const since = db
    .select({ quantity: sql`sum(${movementLine.quantity} * (${came}))` })
    .from(movementLine)
    .innerJoin(movement, eq(movement.id, movementLine.movementId))
    .where(
      and(
        eq(movementLine.itemId, row.itemId),
        gt(movementLine.seq, row.seq),
        sql`${movementLine.lotId} is not distinct from ${row.lotId}`,
        notInArray(sql`coalesce(${movement.reverses}, ${movement.id})`, putRight),
      ),
    );
  const undone = db
    .select({ one: sql`1` })
    .from(undo)
    .where(eq(undo.reverses, binCount.movementId));
  const later = db
    .select({ day: sql`max(${binCount.countedOn})` })
    .from(binCount)
    .where(and(sameThere, gt(binCount.seq, row.seq), notExists(undone)));
  const rows = await db
    .select({ held: sql<string>`coalesce((${now}), 0) - coalesce((${since}), 0)`, countedLater: sql<string | null>`(${later})` })
    .from(asked)
    .orderBy(row.at);
  return rows.map(({ held, countedLater }) => ({ held: decimal(held), countedLater }));
}
