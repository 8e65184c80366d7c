import * as contract from '@larder/contract/making';
import type { Serve } from '../../http/route';
import { createBom, editBom, retireBom } from './boms';
import { bomCost } from './costing';
import { canMakeAll, canMakeItem } from './makeable';
import { boms, getBom, whereUsed } from './queries';

export function makingRoutes(serve: Serve): void {
  serve(contract.listBoms, (act, { query }) => boms(act, query));
  serve(contract.getBom, (act, { params }) => getBom(act, params.id));
  serve(contract.createBom, (act, { body }) => createBom(act, body));
  serve(contract.editBom, (act, { params, body }) => editBom(act, params.id, body));
  serve(contract.retireBom, (act, { params, body }) => retireBom(act, params.id, body));
  serve(contract.bomCost, (act, { body }) => bomCost(act, body));
  serve(contract.whereUsed, (act, { params }) => whereUsed(act, params.id));
  serve(contract.canMakeItem, (act, { params, query }) => canMakeItem(act, params.id, query));
  serve(contract.canMakeAll, (act, { query }) => canMakeAll(act, query));
}
