import * as contract from '@larder/contract/returns';
import type { Serve } from '../../http/route';
import { listHeld } from './held';
import { paperOfReturn } from './paper';
import { oneReturn, returns, returnsInAll } from './queries';
import { returnReport, returnReportInAll } from './report';
import { createReturn, discardReturn, editReturn } from './service';

export function returnRoutes(serve: Serve): void {
  serve(contract.listHeld, (act, { query }) => listHeld(act, query));
  serve(contract.listReturns, (act, { query }) => returns(act, query));
  serve(contract.returnsInAll, (act, { query }) => returnsInAll(act, query));
  serve(contract.returnReport, (act, { query }) => returnReport(act, query));
  serve(contract.returnReportInAll, (act, { query }) => returnReportInAll(act, query));
  serve(contract.getReturn, (act, { params }) => oneReturn(act, params.id));
  serve(contract.returnPaper, (act, { params }) => paperOfReturn(act, params.id));
  serve(contract.createReturn, (act, { body }) => createReturn(act, body));
  serve(contract.editReturn, (act, { params, body }) => editReturn(act, params.id, body));
  serve(contract.discardReturn, (act, { params, body }) => discardReturn(act, params.id, body));
}
