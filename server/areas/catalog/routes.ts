import * as contract from '@larder/contract/catalog';
import type { Serve } from '../../http/route';
import { find, item, items } from './queries';
import { createItem, editItem } from './service';

export function catalogRoutes(serve: Serve): void {
  serve(contract.listItems, (act, { query }) => items(act, query));
  serve(contract.getItem, (act, { params }) => item(act, params.id));
  serve(contract.createItem, (act, { body }) => createItem(act, body));
  serve(contract.editItem, (act, { params, body }) => editItem(act, params.id, body));
  serve(contract.find, async (act, { query }) => ({ rows: await find(act, query.q) }));
}
