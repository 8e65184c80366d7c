import type * as contract from '@larder/contract/post';
import type { QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, isNull, or, sql } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { cursorOf, everyWord, pageOf, paged, type Sort } from '../../db/paging';
import { delivered, invoice, letter, lot, person, purchaseOrder, salesOrder } from '../../db/schema/index';

const isDelivered = exists(
  new QueryBuilder()
    .select({ one: sql`1` })
    .from(delivered)
    .where(eq(delivered.messageId, letter.messageId)),
);

type About = NonNullable<contract.Letter['about']>;

/** The number of what a letter is about, and the site of that, where it has one. */
const number = sql<string | null>`coalesce(${purchaseOrder.number}, ${salesOrder.number}, ${invoice.number}, ${lot.code})`;
const siteId = sql<number | null>`coalesce(${purchaseOrder.siteId}, ${salesOrder.siteId})`;

/** Letters that were written, the last first. Those about invoices are for whoever may issue those. */
export async function letters({ tx: { db }, sites, by }: Act, query: QueryOf<typeof contract.listLetters>): Promise<ResponseOf<typeof contract.listLetters>> {
  const words = sql`lower(${letter.recipient} || ' ' || ${letter.subject} || ' ' || coalesce(${number}, ''))`;
  const sort: Sort = { sql: letter.writtenAt, type: 'timestamptz' };
  const page = pageOf(sort, letter.id, { ...query, direction: 'down' });
  const seesInvoices = sites('books.invoice') === null;
  // What is told to one of us is theirs, and seen by whoever sets the business up.
  const mine = sites('setup.edit') === null ? undefined : or(isNull(letter.forId), eq(letter.forId, by.id));
  const rows = await db
    .select({
      id: letter.id,
      to: letter.recipient,
      subject: letter.subject,
      attached: letter.attached,
      writtenAt: letter.writtenAt,
      person: person.name,
      notice: sql<
        contract.Letter['notice']
      >`case when ${letter.forId} is not null then json_build_object('leadsTo', ${letter.leadsTo}, 'text', ${letter.body}) end`,
      recall: sql<string>`case when ${letter.lotId} is not null then ${letter.body} else '' end`,
      about: sql<contract.Letter['about']>`case when ${number} is not null then json_build_object('kind',
        case when ${letter.purchaseOrderId} is not null then 'purchase' when ${letter.salesOrderId} is not null then 'sale' when ${letter.lotId} is not null then 'lot' else 'invoice' end,
        'id', coalesce(${letter.purchaseOrderId}, ${letter.salesOrderId}, ${letter.invoiceId}, ${letter.lotId}), 'number', ${number}) end`,
      text: sql<string>`case when ${letter.forId} is null and ${letter.lotId} is null then ${letter.body} else '' end`,
      fault: letter.fault,
      state: sql<
        contract.Letter['state']
      >`case when ${letter.sentAt} is not null then 'sent' when ${letter.nextTryAt} is null then 'not sent' else 'waiting' end`,
      delivered: sql<boolean>`${isDelivered}`,
      ...cursorOf(sort, letter.id),
    })
    .from(letter)
    .leftJoin(person, eq(person.id, letter.writtenBy))
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, letter.purchaseOrderId))
    .leftJoin(salesOrder, eq(salesOrder.id, letter.salesOrderId))
    .leftJoin(invoice, eq(invoice.id, letter.invoiceId))
    .leftJoin(lot, eq(lot.id, letter.lotId))
    .where(
      and(
        everyWord(words, query.q),
        or(sql`${letter.invoiceId} is not null`, sql`${letter.forId} is not null`, atSites(siteId, sites('look')) ?? sql`true`),
        mine,
        seesInvoices ? undefined : isNull(letter.invoiceId),
        page.after,
      ),
    )
    .orderBy(...page.order)
    .limit(page.limit);
  return paged(rows, query.limit);
}

/** What a letter is about, and at which site that is. */
export async function aboutLetter({ tx: { db } }: Act, id: number): Promise<{ kind: About['kind'] | 'notice'; siteId: number | null; forId: number | null }> {
  const [row] = await db
    .select({ siteId, salesOrderId: letter.salesOrderId, invoiceId: letter.invoiceId, lotId: letter.lotId, forId: letter.forId })
    .from(letter)
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, letter.purchaseOrderId))
    .leftJoin(salesOrder, eq(salesOrder.id, letter.salesOrderId))
    .where(eq(letter.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such letter.');
  const { forId } = row;
  return {
    kind: forId !== null ? 'notice' : row.lotId !== null ? 'lot' : row.invoiceId !== null ? 'invoice' : row.salesOrderId !== null ? 'sale' : 'purchase',
    siteId: row.siteId,
    forId,
  };
}

export async function letterFile(act: Act, id: number): Promise<ResponseOf<typeof contract.letterFile>> {
  const { kind, siteId: at, forId } = await aboutLetter(act, id);
  if (kind === 'invoice') {
    act.allowOwn('look');
    act.allow('books.invoice', null);
  } else if (forId !== null) {
    act.allowOwn('look');
    if (forId !== act.by.id) act.allow('setup.edit', null);
  } else act.allow('look', at);
  if (kind === 'purchase') act.allow('costs.see', at);
  const [row] = await act.tx.db.select({ raw: letter.raw, subject: letter.subject }).from(letter).where(eq(letter.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such letter.');
  return { type: 'message/rfc822', name: `${row.subject}.eml`, bytes: row.raw };
}
