import { and, ne, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import { jsonRows } from '../db/json';
import { itemCode } from '../db/schema/index';

/** The codes that mean an item, each for so many base units; `suppliers` adds its suppliers' codes. */
export const codesOf = (item: PgColumn | SQL, { suppliers }: { suppliers: boolean }) =>
  jsonRows({ code: itemCode.code, factor: sql<string>`trim_scale(${itemCode.factor})::text` }, (select) =>
    select.from(itemCode).where(and(sql`${itemCode.itemId} = ${item}`, suppliers ? undefined : ne(itemCode.source, 'supplier'))),
  );
