import { and, eq, sql } from 'drizzle-orm';
import { QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { positive } from '../db/given';
import { jsonRows } from '../db/json';
import { documentLine, productTerms, purchaseOrder, purchaseTerms, transfer, transferTerms, workOrder } from '../db/schema/index';
import { plain } from '../db/text';

/** The day that what a document line brings is expected: its own, else its document's. */
const expectedOn = sql<string | null>`coalesce(${purchaseTerms.expectedOn}, ${purchaseOrder.expectedOn}, ${transfer.expectedOn}, ${workOrder.dueOn})`;

const comes = (itemId: PgColumn | number, siteId: PgColumn | number) =>
  and(sql`${documentLine.itemId} = ${itemId}`, sql`${documentLine.bringsToId} = ${siteId}`, positive(documentLine.incoming));

/** What is to come of an item to a site, of suppliers, from other sites and of work, by expected day. */
export const comingOf = (itemId: PgColumn | number, siteId: PgColumn | number) =>
  jsonRows(
    {
      kind: sql<'purchase' | 'transfer' | 'work'>`case ${documentLine.kind} when 'product' then 'work' else ${documentLine.kind} end`,
      orderNumber: documentLine.number,
      orderId: sql<number>`coalesce(${purchaseOrder.id}, ${transfer.id}, ${workOrder.id})`,
      quantity: plain(documentLine.incoming),
      expectedOn,
    },
    (select) =>
      select
        .from(documentLine)
        .leftJoin(purchaseTerms, eq(purchaseTerms.id, documentLine.id))
        .leftJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
        .leftJoin(transferTerms, eq(transferTerms.id, documentLine.id))
        .leftJoin(transfer, eq(transfer.id, transferTerms.transferId))
        .leftJoin(productTerms, eq(productTerms.id, documentLine.id))
        .leftJoin(workOrder, eq(workOrder.id, productTerms.workOrderId))
        .where(comes(itemId, siteId)),
    { orderBy: sql`${expectedOn} nulls last, ${documentLine.id}` },
  );

/** The day the next of it comes; null when nothing does, or nobody has said when. */
export const nextComing = (itemId: PgColumn, siteId: PgColumn) =>
  sql<string | null>`(${new QueryBuilder()
    .select({ day: sql`min(${expectedOn})` })
    .from(documentLine)
    .leftJoin(purchaseTerms, eq(purchaseTerms.id, documentLine.id))
    .leftJoin(purchaseOrder, eq(purchaseOrder.id, purchaseTerms.orderId))
    .leftJoin(transferTerms, eq(transferTerms.id, documentLine.id))
    .leftJoin(transfer, eq(transfer.id, transferTerms.transferId))
    .leftJoin(productTerms, eq(productTerms.id, documentLine.id))
    .leftJoin(workOrder, eq(workOrder.id, productTerms.workOrderId))
    .where(comes(itemId, siteId))})`;
