import { unusualPlaces } from '@larder/core/books/currency';
import { inArray, sql, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';

/** How many decimals the currency of a row has. */
export const placesOf = (currency: PgColumn): SQL<number> => {
  const cases = [...unusualPlaces]
    .filter(([, codes]) => codes.length > 0)
    .map(([places, codes]) => sql`when ${inArray(currency, [...codes])} then ${places}::int`);
  return sql<number>`(case ${sql.join(cases, sql` `)} else 2 end)`;
};
