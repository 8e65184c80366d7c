import * as contract from '@larder/contract/inbound';
import * as receiving from '@larder/contract/receiving';
import { api, foresee, keep, read, write } from '../../app/api';

const inbound = api.injectEndpoints({
  endpoints: (build) => ({
    purchases: read(build, contract.listPurchases),
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
    returnable: read(build, receiving.returnable),
    foreseeReturn: foresee(build, receiving.returnGoods),
    returnGoods: write(build, receiving.returnGoods),
    foreseeLoose: foresee(build, receiving.receiveLoose),
    receiveLoose: write(build, receiving.receiveLoose),
    receive: write(build, receiving.receive),
  }),
});
export const {
  usePurchasesQuery,
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
  useReturnableQuery,
  useForeseeReturnQuery,
  useReturnGoodsMutation,
  useForeseeLooseQuery,
  useReceiveLooseMutation,
  useReceiveMutation,
} = inbound;
