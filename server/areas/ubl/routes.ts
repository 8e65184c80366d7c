import * as contract from '@larder/contract/ubl';
import type { Serve } from '../../http/route';
import { despatchUbl, invoiceUbl, orderUbl } from './service';

export function ublRoutes(serve: Serve): void {
  serve(contract.invoiceUbl, (act, { params }) => invoiceUbl(act, params.id));
  serve(contract.orderUbl, (act, { params }) => orderUbl(act, params.id));
  serve(contract.despatchUbl, (act, { params }) => despatchUbl(act, params.id));
}
