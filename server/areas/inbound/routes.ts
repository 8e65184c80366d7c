import * as contract from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import { seenAt } from '../../act';
import type { Serve } from '../../http/route';
import { deskLines } from './deskLines';
import { purchase, purchases, purchasesInAll } from './queries';
import { receiveUnordered } from './unordered';
import { returnable, returnGoods, returnSources } from './returns';
import { receive } from './receive';
import { amendPurchase } from './amend';
import { createPurchase, decidePurchase, editPurchase } from './service';
import { recordDirect } from './direct';
import { supplier, supplierTerms } from './supplierQueries';
import { changeTally, tallyOf } from './tally';

export function inboundRoutes(serve: Serve): void {
  serve(contract.listPurchases, (act, { query }) => purchases(act, query));
  serve(contract.purchasesInAll, (act, { query }) => purchasesInAll(act, query));
  serve(contract.getSupplier, (act, { params }) => supplier(act, params.id));
  serve(contract.supplierTerms, (act, { params, query }) => supplierTerms(act, params.id, query.itemIds));
  serve(contract.recordDirect, (act, { params, body }) => recordDirect(act, params.id, body));
  serve(contract.getPurchase, async (act, { params }) => seenAt(act, await purchase(act, params.id)));
  serve(contract.createPurchase, (act, { body }) => createPurchase(act, body));
  serve(contract.editPurchase, (act, { params, body }) => editPurchase(act, params.id, body));
  serve(contract.decidePurchase, (act, { params, body }) => decidePurchase(act, params.id, body));
  serve(receiving.receivingDesk, async (act, { query }) => ({ rows: await deskLines(act, query.siteId), ...(await tallyOf(act)) }));
  serve(receiving.changeDesk, (act, { body }) => changeTally(act, body.changes));
  serve(contract.amendPurchase, (act, { params, body }) => amendPurchase(act, params.id, body));
  serve(receiving.receiveUnordered, (act, { body }) => receiveUnordered(act, body));
  serve(receiving.returnSources, (act, { query }) => returnSources(act, query));
  serve(receiving.returnable, (act, { params }) => returnable(act, params.id));
  serve(receiving.returnGoods, (act, { body }) => returnGoods(act, body));
  serve(receiving.receive, (act, { body }) => receive(act, body));
}
