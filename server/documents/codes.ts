import { and, ne, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import { jsonRows } from '../db/json';
import { itemCode } from '../db/schema/index';

/** The codes that mean an item, each for so many base units; `suppliers` adds its suppliers' codes. */
export const codesOf = (item: PgColumn | SQL, { suppliers }: { suppliers: boolean }) =>
  jsonRows({ code: itemCode.code, factor: sql<string>`trim_scale(${itemCode.factor})::text` }, (select) =>
    select.from(itemCode).where(and(sql`${itemCode.itemId} = ${item}`, suppliers ? undefined : ne(itemCode.source, 'supplier'))),
  );

interface LyingHere {
  lotKind: 'lot' | 'serial' | null;
  lot: string | null;
  tag: string | null;
  itemCodes: { code: string; factor: string }[];
}

/** The codes that mean what lies there: a serial unit its own, everything else its item's. */
export const codesHere = ({ lotKind, lot: code, tag, itemCodes }: LyingHere) =>
  lotKind === 'serial' ? [code, tag].flatMap((own) => (own === null ? [] : [{ code: own, factor: '1' }])) : itemCodes;
