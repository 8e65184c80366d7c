import * as margin from '@larder/contract/margin';
import * as contract from '@larder/contract/outbound';
import type { Serve } from '../../http/route';
import { amendSale } from './amend';
import { availability } from './availability';
import { customerItems } from './customers';
import { holdStock, lineGap, promiseLine, standBack } from './gaps';
import { listMargin, marginInAll } from './margin';
import { pickList } from './pickList';
import { sale, sales, salesInAll, seenSale } from './queries';
import { createSale, editSale, splitSale } from './quotes';
import { confirmSale, endSale } from './service';
import { dispatch, pick } from './shipping';

export function outboundRoutes(serve: Serve): void {
  serve(contract.listSales, (act, { query }) => sales(act, query));
  serve(contract.salesInAll, (act, { query }) => salesInAll(act, query));
  serve(margin.listMargin, (act, { query }) => listMargin(act, query));
  serve(margin.marginInAll, (act, { query }) => marginInAll(act, query));
  serve(contract.getSale, async (act, { params }) => seenSale(act, await sale(act, params.id)));
  serve(contract.customerItems, (act, { params }) => customerItems(act, params.id));
  serve(contract.createSale, (act, { body }) => createSale(act, body));
  serve(contract.editSale, (act, { params, body }) => editSale(act, params.id, body));
  serve(contract.splitSale, async (act, { params, body }) => splitSale(act, params.id, body));
  serve(contract.confirmSale, (act, { params, body }) => confirmSale(act, params.id, body));
  serve(contract.amendSale, (act, { params, body }) => amendSale(act, params.id, body));
  serve(contract.endSale, (act, { params, body }) => endSale(act, params.id, body));
  serve(contract.availability, (act, { query }) => availability(act, query));
  serve(contract.lineGap, (act, { params }) => lineGap(act, params.id));
  serve(contract.holdStock, (act, { params, body }) => holdStock(act, params.id, body));
  serve(contract.standBack, (act, { params, body }) => standBack(act, params.id, body));
  serve(contract.promiseLine, (act, { params, body }) => promiseLine(act, params.id, body));
  serve(contract.pickList, (act, { params }) => pickList(act, params.id));
  serve(contract.pick, (act, { body }) => pick(act, body));
  serve(contract.dispatch, (act, { body }) => dispatch(act, body));
}
