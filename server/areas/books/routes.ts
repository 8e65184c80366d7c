import * as contract from '@larder/contract/books';
import { moveFault } from '@larder/core/books/purpose';
import { refuseField } from '@larder/core/refusal';
import type { Act } from '../../act';
import { recordChanges } from '../../documents/changes';
import type { Serve } from '../../http/route';
import { account, accounts, journal, journalFile } from './queries';

export function bookRoutes(serve: Serve): void {
  serve(contract.listAccounts, async (act) => ({ rows: await accounts(act) }));
  serve(contract.getAccount, (act, { params }) => account(act, params.id));
  serve(contract.createAccount, async (act, { body }) => {
    await refuseTaken(act, body.code, 0);
    const [row] = await act.tx.rows<{ id: number }>('INSERT INTO account (code, name, type) VALUES ($1, $2, $3) RETURNING id', [
      body.code,
      body.name,
      body.type,
    ]);
    return account(act, row?.id ?? 0);
  });
  serve(contract.editAccount, async (act, { params, body }) => {
    const was = await account(act, params.id);
    await refuseTaken(act, body.code, params.id);
    await act.tx.rows('UPDATE account SET code = $2, name = $3 WHERE id = $1', [params.id, body.code, body.name]);
    await recordChanges(act, 'account', params.id, { code: was.code, name: was.name }, body);
    return account(act, params.id);
  });
  serve(contract.mapPurpose, async (act, { body: { purpose, accountId } }) => {
    await act.tx.rows('SELECT 1 FROM account ORDER BY id FOR UPDATE');
    const all = await accounts(act);
    const from = all.find((one) => one.purpose === purpose);
    const to = all.find(({ id }) => id === accountId);
    if (!from || !to) throw refuseField(404, 'no-such-account', 'accountId', 'There is no such account.');
    const fault = moveFault(purpose, from, to);
    if (fault !== null) throw refuseField(409, 'purpose-stays', 'accountId', fault);
    await act.tx.rows('UPDATE account SET purpose = NULL WHERE id = $1', [from.id]);
    await act.tx.rows('UPDATE account SET purpose = $2 WHERE id = $1', [to.id, purpose]);
    await recordChanges(act, 'account', to.id, { purpose: null }, { purpose });
    return account(act, to.id);
  });
  serve(contract.journal, (act, { query }) => journal(act, query));
  serve(contract.journalFile, (act, { query }) => journalFile(act, query));
}

async function refuseTaken({ tx }: Act, code: string, id: number): Promise<void> {
  const [taken] = await tx.rows<{ name: string }>('SELECT name FROM account WHERE lower(code) = lower($1) AND id <> $2', [code, id]);
  if (taken) throw refuseField(409, 'code-taken', 'code', `${code} is the account ${taken.name} already.`);
}
