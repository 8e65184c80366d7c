import * as contract from '@larder/contract/transfers';
import type { Serve } from '../../http/route';
import { transferFigures } from './figures';
import { transferPaper } from './paper';
import { transferProposals } from './proposals';
import { getTransfer, transfers, transfersInAll } from './queries';
import { loseTransfer, pickTransfer, sendTransfer, transferPickList } from './sending';
import { cancelTransfer, changeTransfer, createTransfer } from './service';

export function transferRoutes(serve: Serve): void {
  serve(contract.listTransfers, (act, { query }) => transfers(act, query));
  serve(contract.transfersInAll, (act, { query }) => transfersInAll(act, query));
  serve(contract.transferFigures, (act, { query }) => transferFigures(act, query));
  serve(contract.getTransfer, (act, { params }) => getTransfer(act, params.id));
  serve(contract.transferPaper, (act, { params }) => transferPaper(act, params.id));
  serve(contract.transferProposals, (act, { query }) => transferProposals(act, query.siteId));
  serve(contract.createTransfer, (act, { body }) => createTransfer(act, body));
  serve(contract.changeTransfer, (act, { params, body }) => changeTransfer(act, params.id, body));
  serve(contract.cancelTransfer, (act, { params, body }) => cancelTransfer(act, params.id, body));
  serve(contract.transferPickList, (act, { params }) => transferPickList(act, params.id));
  serve(contract.pickTransfer, (act, { params, body }) => pickTransfer(act, params.id, body));
  serve(contract.sendTransfer, (act, { params, body }) => sendTransfer(act, params.id, body));
  serve(contract.loseTransfer, (act, { params, body }) => loseTransfer(act, params.id, body));
}
