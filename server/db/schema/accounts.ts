import type { AccountType } from '@larder/core/books/plainText';
import type { BookPurpose } from '@larder/core/books/purpose';
import { pgTable, text } from 'drizzle-orm/pg-core';
import { key } from './columns';

export const account = pgTable('account', {
  id: key(),
  code: text().notNull().unique(),
  name: text().notNull(),
  type: text().$type<AccountType>().notNull(),
  /** What postings use it for; at most one account for each purpose. */
  purpose: text().$type<BookPurpose>().unique(),
  /** The account of the accounting service that entries on it are handed over to. */
  outsideCode: text('outside_code'),
});
