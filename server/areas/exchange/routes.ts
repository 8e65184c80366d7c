import * as contract from '@larder/contract/exchange';
import type { Serve } from '../../http/route';
import { exportFields, exportFile, keepExport } from './exports';
import { cancelImport, checkImport, columnsKept, importReport, refusedFile, runImport, type Writing } from './service';

export function exchangeRoutes(serve: Serve, begin: (writing: Writing) => void): void {
  serve(contract.checkImport, (act, { body }) => checkImport(act, body));
  serve(contract.getImport, (act, { params, query }) => importReport(act, params.id, query));
  serve(contract.runImport, (act, { params }) => runImport(act, params.id, begin));
  serve(contract.cancelImport, (act, { params }) => cancelImport(act, params.id));
  serve(contract.refusedRows, (act, { params }) => refusedFile(act, params.id));
  serve(contract.keptColumns, (act, { body }) => columnsKept(act, body.kind, body.headings));
  serve(contract.exportFields, (act, { params }) => exportFields(act, params.list));
  serve(contract.exportFile, async (act, { params, body }) => {
    await keepExport(act, params.list, body);
    return exportFile(act, params.list, body);
  });
}
