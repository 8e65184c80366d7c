import { documentRules } from '@larder/core/ledger/counters';
import { desc, eq, exists, inArray, or, sql } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { jsonRows } from '../db/json';
import { componentTerms, loanLine, movement, movementLine, person, productTerms, purchaseLine, salesLine, transferLine } from '../db/schema/index';

const query = new QueryBuilder();
const undo = alias(movement, 'undo');
const isUndone = exists(
  query
    .select({ one: sql`1` })
    .from(undo)
    .where(eq(undo.reverses, movement.id)),
);

/** The movements of an order, a transfer, a loan or a work order, newest first. */
export function movementsOf(kind: 'purchase' | 'sales' | 'transfer' | 'loan' | 'work', documentId: PgColumn) {
  const moved = kind === 'work' ? movedForWork(documentId) : movedFor(kind, documentId);
  return jsonRows(
    {
      id: movement.id,
      kind: movement.kind,
      postedAt: movement.postedAt,
      person: person.name,
      quantity: moved.quantity,
      value: moved.value,
      undone: sql<boolean>`${isUndone}`,
      undoes: sql<boolean>`${movement.reverses} is not null`,
    },
    (select) => select.from(moved).innerJoin(movement, eq(movement.id, moved.movementId)).innerJoin(person, eq(person.id, movement.personId)),
    { orderBy: desc(movement.id) },
  );
}

const sums = {
  quantity: sql<string>`trim_scale(sum(${movementLine.quantity}))::text`.as('moved_quantity'),
  value: sql<string>`sum(${movementLine.value})::text`.as('moved_value'),
};

function movedFor(kind: 'purchase' | 'sales' | 'transfer' | 'loan', documentId: PgColumn) {
  const { line, documentOf } = {
    purchase: { line: purchaseLine, documentOf: purchaseLine.orderId },
    sales: { line: salesLine, documentOf: salesLine.orderId },
    transfer: { line: transferLine, documentOf: transferLine.transferId },
    loan: { line: loanLine, documentOf: loanLine.loanId },
  }[kind];
  const served = documentRules[kind].side === 'supply' ? movementLine.supplyLineId : movementLine.demandLineId;
  return query
    .select({
      movementId: movementLine.movementId,
      ...sums,
    })
    .from(line)
    .innerJoin(movementLine, eq(served, line.id))
    .where(eq(documentOf, documentId))
    .groupBy(movementLine.movementId)
    .as('moved');
}

/** Of a work order, what its components and its outputs were in. */
function movedForWork(workOrderId: PgColumn) {
  const linesOf = (terms: typeof componentTerms | typeof productTerms) => query.select({ id: terms.id }).from(terms).where(eq(terms.workOrderId, workOrderId));
  return query
    .select({ movementId: movementLine.movementId, ...sums })
    .from(movementLine)
    .where(or(inArray(movementLine.demandLineId, linesOf(componentTerms)), inArray(movementLine.supplyLineId, linesOf(productTerms))))
    .groupBy(movementLine.movementId)
    .as('moved');
}
