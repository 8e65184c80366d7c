import * as contract from '@larder/contract/printing';
import type { Serve } from '../../http/route';
import { previewLabels, printFile, printLabels, prints } from './service';

export function printingRoutes(serve: Serve): void {
  serve(contract.previewLabels, (act, { body }) => previewLabels(act, body));
  serve(contract.printLabels, (act, { body }) => printLabels(act, body));
  serve(contract.listPrints, async (act) => ({ rows: await prints(act) }));
  serve(contract.getPrint, (act, { params }) => printFile(act, params.id));
}
