import * as contract from '@larder/contract/loans';
import type { Serve } from '../../http/route';
import { becomeHolder, createHolder, editHolder, getHolder, holders, holdersInAll } from './holders';
import { canBeLent } from './figures';
import { bringBack, changeLoan, lend, loseLoan } from './lending';
import { holderPaper, loanPaper } from './paper';
import { getLoan, loans, loansInAll } from './queries';

export function loanRoutes(serve: Serve): void {
  serve(contract.listLoans, (act, { query }) => loans(act, query));
  serve(contract.loansInAll, (act, { query }) => loansInAll(act, query));
  serve(contract.getLoan, (act, { params }) => getLoan(act, params.id));
  serve(contract.loanPaper, (act, { params }) => loanPaper(act, params.id));
  serve(contract.canBeLent, (act, { query }) => canBeLent(act, query));
  serve(contract.lend, (act, { body }) => lend(act, body));
  serve(contract.changeLoan, (act, { params, body }) => changeLoan(act, params.id, body));
  serve(contract.bringBack, (act, { body }) => bringBack(act, body));
  serve(contract.loseLoan, (act, { body }) => loseLoan(act, body));
  serve(contract.listHolders, (act, { query }) => holders(act, query));
  serve(contract.holdersInAll, (act, { query }) => holdersInAll(act, query));
  serve(contract.getHolder, (act, { params }) => getHolder(act, params.id));
  serve(contract.holderPaper, (act, { params }) => holderPaper(act, params.id));
  serve(contract.createHolder, (act, { body }) => createHolder(act, body));
  serve(contract.editHolder, (act, { params, body }) => editHolder(act, params.id, body));
  serve(contract.becomeHolder, (act, { params }) => becomeHolder(act, params.id));
}
