import * as contract from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import { api, floorWrite, foresee, keep, list, read, write } from '../../shared/api';

const inbound = api.injectEndpoints({
  endpoints: (build) => ({
    purchaseList: list(build, contract.listPurchases),
    purchasesInAll: read(build, contract.purchasesInAll),
    purchase: read(build, contract.getPurchase),
    supplier: read(build, contract.getSupplier),
    supplierTerms: read(build, contract.supplierTerms),
    foreseeDirect: foresee(build, contract.recordDirect),
    recordDirect: write(build, contract.recordDirect),
    desk: read(build, receiving.receivingDesk),
    changeDesk: keep(build, receiving.changeDesk),
    amendPurchase: write(build, contract.amendPurchase),
    createPurchase: write(build, contract.createPurchase),
    editPurchase: write(build, contract.editPurchase),
    decidePurchase: write(build, contract.decidePurchase),
    foreseeReceipt: foresee(build, receiving.receive),
    returnSources: read(build, receiving.returnSources),
    returnable: read(build, receiving.returnable),
    foreseeReturn: foresee(build, receiving.returnGoods),
    returnGoods: write(build, receiving.returnGoods),
    foreseeUnordered: foresee(build, receiving.receiveUnordered),
    receiveUnordered: write(build, receiving.receiveUnordered),
    receive: floorWrite(build, receiving.receive),
  }),
});
export const {
  usePurchaseListInfiniteQuery,
  usePurchasesInAllQuery,
  usePurchaseQuery,
  useSupplierQuery,
  useSupplierTermsQuery,
  useForeseeDirectQuery,
  useRecordDirectMutation,
  useDeskQuery,
  useChangeDeskMutation,
  useAmendPurchaseMutation,
  useCreatePurchaseMutation,
  useEditPurchaseMutation,
  useDecidePurchaseMutation,
  useForeseeReceiptQuery,
  useReturnSourcesQuery,
  useReturnableQuery,
  useForeseeReturnQuery,
  useReturnGoodsMutation,
  useForeseeUnorderedQuery,
  useReceiveUnorderedMutation,
  useReceiveMutation,
} = inbound;

/** Asks for the desk again from time to time, beside whoever shows it. */
export const useDeskQuerySubscription = inbound.endpoints.desk.useQuerySubscription;
