import * as contract from '@larder/contract/books';
import * as bearers from '@larder/contract/bearers';
import type { Serve } from '../../http/route';
import { departmentReport, ownUse, ownUseInAll } from './bearers';
import { account, accounts, journal, journalFile } from './queries';
import { createAccount, editAccount, mapPurpose } from './service';

export function bookRoutes(serve: Serve): void {
  serve(contract.listAccounts, async (act) => ({ rows: await accounts(act) }));
  serve(contract.getAccount, (act, { params }) => account(act, params.id));
  serve(contract.createAccount, (act, { body }) => createAccount(act, body));
  serve(contract.editAccount, (act, { params, body }) => editAccount(act, params.id, body));
  serve(contract.mapPurpose, (act, { body }) => mapPurpose(act, body));
  serve(contract.journal, (act, { query }) => journal(act, query));
  serve(bearers.departmentReport, (act, { query }) => departmentReport(act, query));
  serve(bearers.ownUse, (act, { query }) => ownUse(act, query));
  serve(bearers.ownUseInAll, (act, { query }) => ownUseInAll(act, query));
  serve(contract.journalFile, (act, { query }) => journalFile(act, query));
}
