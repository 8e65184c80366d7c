import * as contract from '@larder/contract/inbound';
import type { Serve } from '../../http/route';
import { desk, purchase, purchases } from './queries';
import { receiveLoose } from './loose';
import { returnable, returnGoods } from './returns';
import { createPurchase, decidePurchase, editPurchase, receive } from './service';

export function inboundRoutes(serve: Serve): void {
  serve(contract.listPurchases, (act, { query }) => purchases(act, query));
  serve(contract.getPurchase, (act, { params }) => purchase(act, params.id));
  serve(contract.createPurchase, (act, { body }) => createPurchase(act, body));
  serve(contract.editPurchase, (act, { params, body }) => editPurchase(act, params.id, body));
  serve(contract.decidePurchase, (act, { params, body }) => decidePurchase(act, params.id, body));
  serve(contract.receivingDesk, async (act, { query }) => ({ rows: await desk(act, query.siteId) }));
  serve(contract.receiveLoose, (act, { body }) => receiveLoose(act, body));
  serve(contract.returnable, (act, { params }) => returnable(act, params.id));
  serve(contract.returnGoods, (act, { body }) => returnGoods(act, body));
  serve(contract.receive, (act, { body }) => receive(act, body));
}
