import { documentRules } from '@larder/core/ledger/counters';
import { desc, eq, exists, sql } from 'drizzle-orm';
import { alias, QueryBuilder, type PgColumn } from 'drizzle-orm/pg-core';
import { jsonRows } from '../db/json';
import { loanLine, movement, movementLine, person, purchaseLine, salesLine, transferLine } from '../db/schema/index';

const query = new QueryBuilder();
const undo = alias(movement, 'undo');
const isUndone = exists(
  query
    .select({ one: sql`1` })
    .from(undo)
    .where(eq(undo.reverses, movement.id)),
);

/** The movements of an order, a transfer or a loan, newest first. */
export function movementsOf(kind: 'purchase' | 'sales' | 'transfer' | 'loan', documentId: PgColumn) {
  const { line, documentOf } = {
    purchase: { line: purchaseLine, documentOf: purchaseLine.orderId },
    sales: { line: salesLine, documentOf: salesLine.orderId },
    transfer: { line: transferLine, documentOf: transferLine.transferId },
    loan: { line: loanLine, documentOf: loanLine.loanId },
  }[kind];
  const served = documentRules[kind].side === 'supply' ? movementLine.supplyLineId : movementLine.demandLineId;
  const moved = query
    .select({
      movementId: movementLine.movementId,
      quantity: sql<string>`trim_scale(sum(${movementLine.quantity}))::text`.as('moved_quantity'),
      value: sql<string>`sum(${movementLine.value})::text`.as('moved_value'),
    })
    .from(line)
    .innerJoin(movementLine, eq(served, line.id))
    .where(eq(documentOf, documentId))
    .groupBy(movementLine.movementId)
    .as('moved');
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
