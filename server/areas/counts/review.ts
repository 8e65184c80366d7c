import type * as contract from '@larder/contract/counts';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, zero, type Decimal } from '@larder/core/decimal';
import { Refusal } from '@larder/core/refusal';
import { desc, eq, sql } from 'drizzle-orm';
import { seenAt, type Act } from '../../act';
import { jsonRows } from '../../db/json';
import { costPool, countBin, countEntry, countLine, countSheet, item, lot, person, place, unit } from '../../db/schema/index';
import { plain } from '../../db/text';

const difference = sql`(${countLine.counted} - ${countLine.expected})`;
/** What one is worth: now, or when there was some last, or at its purchase price. */
const unitWorth = sql`coalesce(nullif(${costPool.unitCost}, 0), ${costPool.lastValue} / nullif(${costPool.lastQuantity}, 0), ${item.purchasePrice}, 0)`;
const worth = sql<string>`round(${difference} * ${unitWorth}, 2)`;

/** What was counted, by what the differences are worth. */
export async function reviewCount(
  act: Act,
  id: number,
  { show, limit }: QueryOf<typeof contract.reviewCount>,
): Promise<ResponseOf<typeof contract.reviewCount>> {
  const { db } = act.tx;
  const [sheet] = await db.select({ siteId: countSheet.siteId }).from(countSheet).where(eq(countSheet.id, id));
  if (!sheet) throw new Refusal(404, 'not-found', 'There is no such count.');
  act.allow('stock.correct', sheet.siteId);
  const rows = await db
    .select({
      id: countLine.id,
      placeId: place.id,
      bin: place.code,
      itemId: item.id,
      sku: item.sku,
      name: item.name,
      unit: unit.code,
      lot: lot.code,
      expected: plain(countLine.expected),
      counted: plain(countLine.counted),
      difference: sql<string>`trim_scale(${difference})::text`,
      value: worth,
      person: person.name,
      rounds: countLine.rounds,
      recount: countLine.recount,
      binDone: sql<boolean>`${countBin.doneAt} is not null`,
      settled: sql<boolean>`${countLine.settledAt} is not null`,
      posted: plain(countLine.posted),
      movementId: countLine.movementId,
      reasonId: countLine.reasonId,
      entries: jsonRows(
        { counted: plain(countEntry.counted), expected: plain(countEntry.expected), person: person.name, at: countEntry.at },
        (select) => select.from(countEntry).innerJoin(person, eq(person.id, countEntry.personId)).where(eq(countEntry.lineId, countLine.id)),
        { orderBy: countEntry.id },
      ),
    })
    .from(countLine)
    .innerJoin(countBin, eq(countBin.id, countLine.binId))
    .innerJoin(place, eq(place.id, countBin.placeId))
    .innerJoin(item, eq(item.id, countLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .innerJoin(costPool, eq(costPool.itemId, item.id))
    .innerJoin(person, eq(person.id, countLine.countedBy))
    .leftJoin(lot, eq(lot.id, countLine.lotId))
    .where(eq(countBin.sheetId, id))
    .orderBy(desc(sql`abs(${worth})`), desc(sql`abs(${difference})`), place.walk, item.sku);
  const total = (which: (value: Decimal) => boolean) => rows.reduce((sum, { value }) => (which(decimal(value)) ? sum.plus(value) : sum), zero).toFixed(2);
  const wanted = show === 'all' ? rows : rows.filter((row) => Number(row.difference) !== 0 || row.recount !== null);
  const { rows: shown } = seenAt(act, { siteId: sheet.siteId, rows: wanted.slice(0, limit) });
  return {
    rows: shown,
    count: wanted.length,
    agreed: rows.filter((row) => Number(row.difference) === 0).length,
    found: total((value) => value.gt(0)),
    lost: total((value) => value.lt(0)),
  };
}
