import { and, eq, sql } from 'drizzle-orm';
import { type PgColumn } from 'drizzle-orm/pg-core';
import { party } from '../../../db/schema/index';
import { type Source, inOrder } from './source';

const partiesAs = (is: PgColumn): Source => ({
  read: (db, where) =>
    db
      .select({ name: party.name, email: party.email, address: party.address, leadDays: sql<string>`${party.leadDays}::text` })
      .from(party)
      .where(and(eq(is, true), where))
      .orderBy(inOrder),
  words: sql`lower(${party.name})`,
});

export const suppliers: Source = partiesAs(party.isSupplier);

export const customers: Source = partiesAs(party.isCustomer);
