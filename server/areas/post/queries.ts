import type * as contract from '@larder/contract/post';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, sql } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { cursorOf, everyWord, pageOf, paged, type Sort } from '../../db/paging';
import { delivered, letter, person, purchaseOrder } from '../../db/schema/index';

const isDelivered = exists(
  new QueryBuilder()
    .select({ one: sql`1` })
    .from(delivered)
    .where(eq(delivered.messageId, letter.messageId)),
);

/** Letters that were written, the last first. */
export async function letters({ tx: { db }, sites }: Act, query: QueryOf<typeof contract.listLetters>): Promise<ResponseOf<typeof contract.listLetters>> {
  const words = sql`lower(${letter.recipient} || ' ' || ${letter.subject} || ' ' || coalesce(${purchaseOrder.number}, ''))`;
  const sort: Sort = { sql: letter.writtenAt, type: 'timestamptz' };
  const page = pageOf(sort, letter.id, { ...query, direction: 'down' });
  const rows = await db
    .select({
      id: letter.id,
      to: letter.recipient,
      subject: letter.subject,
      attached: letter.attached,
      writtenAt: letter.writtenAt,
      person: person.name,
      orderId: purchaseOrder.id,
      order: purchaseOrder.number,
      text: letter.body,
      fault: letter.fault,
      state: sql<
        contract.Letter['state']
      >`case when ${letter.sentAt} is not null then 'sent' when ${letter.nextTryAt} is null then 'not sent' else 'waiting' end`,
      delivered: sql<boolean>`${isDelivered}`,
      ...cursorOf(sort, letter.id),
    })
    .from(letter)
    .innerJoin(person, eq(person.id, letter.writtenBy))
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, letter.purchaseOrderId))
    .where(
      and(
        everyWord(words, query.q),
        atSites(purchaseOrder.siteId, sites('look')),
        query.orderId === undefined ? undefined : eq(letter.purchaseOrderId, query.orderId),
        page.after,
      ),
    )
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, query.limit);
}

export async function letterFile(act: Act, id: number): Promise<ResponseOf<typeof contract.letterFile>> {
  const [row] = await act.tx.db
    .select({ raw: letter.raw, subject: letter.subject, siteId: purchaseOrder.siteId })
    .from(letter)
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, letter.purchaseOrderId))
    .where(eq(letter.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such letter.');
  act.allow('look', row.siteId);
  act.allow('costs.see', row.siteId);
  return { type: 'message/rfc822', name: `${row.subject}.eml`, bytes: row.raw };
}
