import * as contract from '@larder/contract/inbound';
import { api, foresee, keep, read, write } from '../../app/api';

const inbound = api.injectEndpoints({
  endpoints: (build) => ({
    purchases: read(build, contract.listPurchases),
    purchase: read(build, contract.getPurchase),
    supplier: read(build, contract.getSupplier),
    desk: read(build, contract.receivingDesk),
    changeDesk: keep(build, contract.changeDesk),
    amendPurchase: write(build, contract.amendPurchase),
    createPurchase: write(build, contract.createPurchase),
    editPurchase: write(build, contract.editPurchase),
    decidePurchase: write(build, contract.decidePurchase),
    foreseeReceipt: foresee(build, contract.receive),
    returnable: read(build, contract.returnable),
    foreseeReturn: foresee(build, contract.returnGoods),
    returnGoods: write(build, contract.returnGoods),
    foreseeLoose: foresee(build, contract.receiveLoose),
    receiveLoose: write(build, contract.receiveLoose),
    receive: write(build, contract.receive),
  }),
});
export const {
  usePurchasesQuery,
  usePurchaseQuery,
  useSupplierQuery,
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
