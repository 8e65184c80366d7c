import * as contract from '@larder/contract/prices';
import type { Serve } from '../../http/route';
import { createPriceList, editPriceList, priceListOf, priceLists, retirePriceList } from './lists';
import { customerCodes, customerTerms, keepCustomerCodes } from './queries';

export function priceRoutes(serve: Serve): void {
  serve(contract.listPriceLists, (act) => priceLists(act));
  serve(contract.getPriceList, (act, { params }) => priceListOf(act, params.id));
  serve(contract.createPriceList, (act, { body }) => createPriceList(act, body));
  serve(contract.editPriceList, (act, { params, body }) => editPriceList(act, params.id, body));
  serve(contract.retirePriceList, (act, { params, body }) => retirePriceList(act, params.id, body));
  serve(contract.customerTerms, (act, { params, query }) => customerTerms(act, params.id, query));
  serve(contract.customerCodes, (act, { params }) => customerCodes(act, params.id));
  serve(contract.keepCustomerCodes, (act, { params, body }) => keepCustomerCodes(act, params.id, body));
}
