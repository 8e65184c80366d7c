import type * as contract from '@larder/contract/catalog';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { and, desc, eq, isNotNull, or, sql, type Placeholder, type SQL } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, positive } from '../../db/given';
import { everyWord, wordNames, wordPatterns, wordsGiven, wordValues } from '../../db/paging';
import { preparedFor } from '../../db/prepared';
import { costPool, customerCode, documentLine, item, salesOrder, salesTerms } from '../../db/schema/index';
import { lower } from '../../db/text';
import { costPoolOver } from '../../documents/seen';
import { readCode } from './codes';
import { isCodeOf } from './find';
import { factConditions, nearItems, rowsOf, type Facts, type ItemPage, type ItemQuery } from './itemList';

const lookUp = new QueryBuilder();

/**
 * The best few for a line or the scan bar: an exact code first, then, for a customer, what they have bought before and what is in stock, then names and SKUs that begin with the first word.
 */
export async function bestItems(act: Act, query: ItemQuery): Promise<ItemPage> {
  const asking = { tx: act.tx, sites: act.sites('look') };
  const { q = '', limit, cursor: _cursor, direction: _direction, sort: _sort, customerId, ...facts } = query;
  const code = q.trim().toLowerCase();
  const patterns = wordPatterns(q);
  const start = `${code.replace(/[\\%_]/g, '\\$&')}%`;
  const { tx, sites } = asking;
  const shape = { facts, words: patterns.length, ofSome: sites !== null, isSold: customerId !== undefined };
  const ids = await readBest(tx, shape, { ...wordValues(patterns), code, start, limit, sites, customer: customerId });
  const found = await rowsOf(
    asking,
    ids.map(({ id: itemId }) => itemId),
  );
  const rows = found.map((row, at) => ({ ...row, byCode: ids[at]?.byCode ?? false }));
  return rows.length > 0 || code.length < 3 ? { rows, next: null } : nearItems(asking, query);
}

/** Whether the code is what the customer calls the item. */
const isCalled = (customer: Placeholder, code: Placeholder): SQL =>
  sql`${item.id} in (${lookUp
    .select({ id: customerCode.itemId })
    .from(customerCode)
    .where(and(sql`${customerCode.customerId} = ${customer}`, sql`lower(${customerCode.code}) = ${code}`))})`;

/** Whether the customer has ordered the item before. */
const isBought = (customer: Placeholder): SQL =>
  sql`${item.id} in (${lookUp
    .select({ id: documentLine.itemId })
    .from(salesOrder)
    .innerJoin(salesTerms, eq(salesTerms.orderId, salesOrder.id))
    .innerJoin(documentLine, eq(documentLine.id, salesTerms.id))
    .where(and(sql`${salesOrder.customerId} = ${customer}`, isNotNull(salesOrder.confirmedAt)))})`;

const readBest = preparedFor(
  ['code', 'start', 'limit', 'sites', 'customer', ...wordNames],
  (db, asked, { facts, words, ofSome, isSold }: { facts: Facts; words: number; ofSome: boolean; isSold: boolean }) => {
    const called = isSold ? isCalled(asked.customer, asked.code) : undefined;
    const byCode = sql<boolean>`(${or(isCodeOf(asked.code), called)})`.as('by_code');
    return db
      .select({ id: item.id, byCode })
      .from(item)
      .innerJoin(costPoolOver(ofSome ? asked.sites : null), eq(costPool.itemId, item.id))
      .where(and(or(everyWord(item.findable, wordsGiven(asked, words)), called), factConditions(facts, ofSome ? asked.sites : null)))
      .orderBy(
        sql`by_code desc`,
        ...(isSold ? [desc(isBought(asked.customer)), desc(positive(costPool.free))] : []),
        desc(sql`lower(${item.sku}) like ${asked.start}`),
        desc(sql`lower(${item.name}) like ${asked.start}`),
        lower(item.sku),
      )
      .limit(asked.limit);
  },
);

/** The items that each of some codes means, in the order of the codes: at most ten of each. */
export async function itemsMeant(act: Act, { codes, customerId }: BodyOf<typeof contract.itemsMeant>): Promise<ResponseOf<typeof contract.itemsMeant>> {
  const asking = { tx: act.tx, sites: act.sites('look') };
  const called = customerId === null ? new Map<string, number>() : await calledBy(act, customerId, codes);
  const ids = await Promise.all(
    codes.map(async (code) => {
      const own = called.get(code.toLowerCase());
      return own === undefined ? (await readCode(act, code)).items.slice(0, 10).map(({ itemId }) => itemId) : [own];
    }),
  );
  const rows = new Map((await rowsOf(asking, [...new Set(ids.flat())])).map((row) => [row.id, row]));
  return { rows: codes.map((code, at) => ({ code, items: (ids[at] ?? []).flatMap((itemId) => rows.get(itemId) ?? []) })) };
}

/** The items that a customer calls by these codes, by the codes in small letters. */
async function calledBy({ tx: { db } }: Act, customerId: number, codes: readonly string[]): Promise<Map<string, number>> {
  const small = sql<string>`lower(${customerCode.code})`;
  const wanted = codes.map((code) => code.toLowerCase());
  const rows = await db
    .select({ code: small, itemId: customerCode.itemId })
    .from(customerCode)
    .where(and(eq(customerCode.customerId, customerId), among(small, wanted)));
  return new Map(rows.map(({ code, itemId }) => [code, itemId]));
}
