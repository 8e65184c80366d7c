import * as contract from '@larder/contract/handover';
import type { Serve } from '../../http/route';
import { comparison, handed, standing } from './queries';
import { bringInAccounts, handOver, mapAccounts, takeBack } from './service';

export function handoverRoutes(serve: Serve): void {
  serve(contract.handover, (act) => standing(act));
  serve(contract.bringInAccounts, (act) => bringInAccounts(act));
  serve(contract.mapAccounts, (act, { body }) => mapAccounts(act, body));
  serve(contract.handOver, (act, { body }) => handOver(act, body));
  serve(contract.listHanded, (act, { query }) => handed(act, query));
  serve(contract.takeBack, (act, { params }) => takeBack(act, params.id));
  serve(contract.compare, (act) => comparison(act));
}
