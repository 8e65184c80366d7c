import { moveFault, type MappedAccount } from '@larder/core/books/purpose';
import { refuseField } from '@larder/core/refusal';
import type * as contract from '@larder/contract/books';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { recordChanges } from '../../documents/changes';
import { account } from './queries';

type Account = ResponseOf<typeof contract.getAccount>;

export async function createAccount(act: Act, { code, name, type }: BodyOf<typeof contract.createAccount>): Promise<Account> {
  await refuseTaken(act, code, 0);
  const [row] = await act.tx.rows<{ id: number }>('INSERT INTO account (code, name, type) VALUES ($1, $2, $3) RETURNING id', [code, name, type]);
  return account(act, row?.id ?? 0);
}

export async function editAccount(act: Act, id: number, form: BodyOf<typeof contract.editAccount>): Promise<Account> {
  const was = await account(act, id);
  await refuseTaken(act, form.code, id);
  await act.tx.rows('UPDATE account SET code = $2, name = $3 WHERE id = $1', [id, form.code, form.name]);
  await recordChanges(act, 'account', id, { code: was.code, name: was.name }, form);
  return account(act, id);
}

/** Lets postings use another account for a purpose from now on; what was posted stays where it is. */
export async function mapPurpose(act: Act, { purpose, accountId }: BodyOf<typeof contract.mapPurpose>): Promise<Account> {
  await act.tx.rows('SELECT 1 FROM account ORDER BY id FOR UPDATE');
  const all = await act.tx.rows<MappedAccount & { id: number }>(
    'SELECT id, code, name, type, purpose, EXISTS (SELECT 1 FROM journal_line WHERE account_id = account.id) AS used FROM account',
  );
  const from = all.find((one) => one.purpose === purpose);
  const to = all.find(({ id }) => id === accountId);
  if (!from || !to) throw refuseField(404, 'no-such-account', 'accountId', 'There is no such account.');
  const fault = moveFault(purpose, from, to);
  if (fault !== null) throw refuseField(409, 'purpose-stays', 'accountId', fault);
  await act.tx.rows('UPDATE account SET purpose = NULL WHERE id = $1', [from.id]);
  await act.tx.rows('UPDATE account SET purpose = $2 WHERE id = $1', [to.id, purpose]);
  await recordChanges(act, 'account', to.id, { purpose: null }, { purpose });
  return account(act, to.id);
}

async function refuseTaken({ tx }: Act, code: string, id: number): Promise<void> {
  const [taken] = await tx.rows<{ name: string }>('SELECT name FROM account WHERE lower(code) = lower($1) AND id <> $2', [code, id]);
  if (taken) throw refuseField(409, 'code-taken', 'code', `${code} is the account ${taken.name} already.`);
}
