import * as lots from '@larder/contract/lots';
import * as contract from '@larder/contract/stock';
import type { Serve } from '../../http/route';
import { reverse } from '../../ledger/reverse';
import { editLot, knownSerials, lot } from './lots';
import { lotList, lotsInAll } from './lotList';
import { openStock } from './opening';
import { itemStock } from './itemStock';
import { binContents, stockInAll, stockTable } from './queries';
import { correct } from './service';
import { trace, traceFile } from './trace';
import { trail } from './trail';

export function stockRoutes(serve: Serve): void {
  serve(contract.stockTable, (act, { query }) => stockTable(act, query));
  serve(contract.stockInAll, (act, { query }) => stockInAll(act, query));
  serve(contract.itemStock, (act, { params, query }) => itemStock(act, params.id, query.siteId));
  serve(contract.trail, (act, { query }) => trail(act, query));
  serve(contract.binContents, (act, { params }) => binContents(act, params.id));
  serve(contract.correct, (act, { body }) => correct(act, body));
  serve(contract.openStock, (act, { body }) => openStock(act, body));
  serve(lots.knownSerials, (act, { body }) => knownSerials(act, body));
  serve(lots.listLots, (act, { query }) => lotList(act, query));
  serve(lots.lotsInAll, (act, { query }) => lotsInAll(act, query));
  serve(lots.getLot, (act, { params }) => lot(act, params.id));
  serve(lots.traceLot, (act, { params }) => trace(act, params.id));
  serve(lots.traceFile, (act, { params }) => traceFile(act, params.id));
  serve(lots.editLot, (act, { params, body }) => editLot(act, params.id, body));
  serve(contract.undo, (act, { body }) => reverse(act, body));
}
