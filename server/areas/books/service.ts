import { moveFault } from '@larder/core/books/purpose';
import { refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/books';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { and, eq, exists, ne, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { recordChanges } from '../../documents/changes';
import { account } from './queries';
import { account as table, journalLine } from '../../db/schema/index';
import { sameText } from '../../db/text';

type Account = ResponseOf<typeof contract.getAccount>;

export async function createAccount(act: Act, { code, name, type }: BodyOf<typeof contract.createAccount>): Promise<Account> {
  await refuseTaken(act, code, 0);
  const [row] = await act.tx.db.insert(table).values({ code, name, type }).returning({ id: table.id });
  return account(act, row?.id ?? 0);
}

export async function editAccount(act: Act, id: number, form: BodyOf<typeof contract.editAccount>): Promise<Account> {
  const was = await account(act, id);
  await refuseTaken(act, form.code, id);
  await act.tx.db.update(table).set({ code: form.code, name: form.name }).where(eq(table.id, id));
  await recordChanges(act, 'account', id, { code: was.code, name: was.name }, form);
  return account(act, id);
}

/** Lets postings use another account for a purpose from now on; what was posted stays where it is. */
export async function mapPurpose(act: Act, { purpose, accountId }: BodyOf<typeof contract.mapPurpose>): Promise<Account> {
  const { db } = act.tx;
  await db.select({ id: table.id }).from(table).orderBy(table.id).for('update');
  const used = db
    .select({ one: sql`1` })
    .from(journalLine)
    .where(eq(journalLine.accountId, table.id));
  const all = await db
    .select({
      id: table.id,
      code: table.code,
      name: table.name,
      type: table.type,
      purpose: table.purpose,
      used: sql<boolean>`${exists(used)}`,
    })
    .from(table);
  const from = all.find((one) => one.purpose === purpose);
  const to = all.find(({ id }) => id === accountId);
  if (!from || !to) throw refuseField(404, 'no-such-account', 'accountId', 'There is no such account.');
  const fault = moveFault(purpose, from, to);
  if (fault !== null) throw refuseField(409, 'purpose-stays', 'accountId', fault);
  await db.update(table).set({ purpose: null }).where(eq(table.id, from.id));
  await db.update(table).set({ purpose }).where(eq(table.id, to.id));
  await recordChanges(act, 'account', to.id, { purpose: null }, { purpose });
  return account(act, to.id);
}

async function refuseTaken({ tx }: Act, code: string, id: number): Promise<void> {
  const [taken] = await tx.db
    .select({ name: table.name })
    .from(table)
    .where(and(sameText(table.code, code), ne(table.id, id)));
  if (taken) throw refuseField(409, 'code-taken', 'code', `${code} is the account ${taken.name} already.`);
}
