import * as contract from '@larder/contract/bills';
import * as carriers from '@larder/contract/carriers';
import type { Serve } from '../../http/route';
import { bill, billable, bills, billsInAll, carriersBills } from './queries';
import { pay, undoPayment } from './payments';
import { createBill, postBill, undoBill } from './service';

export function billRoutes(serve: Serve): void {
  serve(carriers.carriersBills, (act, { query }) => carriersBills(act, query.partyId));
  serve(contract.billable, (act, { query }) => billable(act, query.partyId));
  serve(contract.listBills, (act, { query }) => bills(act, query));
  serve(contract.billsInAll, (act, { query }) => billsInAll(act, query));
  serve(contract.getBill, (act, { params }) => bill(act, params.id));
  serve(contract.createBill, (act, { body }) => createBill(act, body));
  serve(contract.postBill, (act, { params, body }) => postBill(act, params.id, body));
  serve(contract.undoBill, (act, { params }) => undoBill(act, params.id));
  serve(contract.pay, (act, { params, body }) => pay(act, params.id, body));
  serve(contract.undoPayment, (act, { params }) => undoPayment(act, params.id));
}
