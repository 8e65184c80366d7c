import * as contract from '@larder/contract/carriers';
import type { Serve } from '../../http/route';
import { createCarrier, editCarrier, listCarriers } from './service';

export function carrierRoutes(serve: Serve): void {
  serve(contract.listCarriers, (act) => listCarriers(act));
  serve(contract.createCarrier, (act, { body }) => createCarrier(act, body));
  serve(contract.editCarrier, (act, { params, body }) => editCarrier(act, params.id, body));
}
