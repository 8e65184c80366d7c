import * as contract from '@larder/contract/landed';
import type { Serve } from '../../http/route';
import { clearing, linesOfReceipts, orderedCharges, receipts, sheet, sheets } from './queries';
import { measureItem } from './measures';
import { createSheet, editSheet, undoSheet } from './service';

export function landedRoutes(serve: Serve): void {
  serve(contract.receipts, async (act, { query }) => ({ rows: await receipts(act, query.q) }));
  serve(contract.receiptLines, async (act, { query }) => {
    const movementIds = query.movementIds.split(',').map(Number);
    return { rows: await linesOfReceipts(act, movementIds), charges: await orderedCharges(act, movementIds) };
  });
  serve(contract.listSheets, async (act, { query }) => ({ rows: await sheets(act, query.q) }));
  serve(contract.getSheet, (act, { params }) => sheet(act, params.id));
  serve(contract.createSheet, (act, { body }) => createSheet(act, body));
  serve(contract.editSheet, (act, { params, body }) => editSheet(act, params.id, body));
  serve(contract.undoSheet, (act, { params }) => undoSheet(act, params.id));
  serve(contract.measureItem, (act, { body }) => measureItem(act, body));
  serve(contract.clearing, (act) => clearing(act));
}
