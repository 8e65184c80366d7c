import * as contract from '@larder/contract/bills';
import * as carriers from '@larder/contract/carriers';
import { api, foresee, list, read, write } from '../../shared/api';

const bills = api.injectEndpoints({
  endpoints: (build) => ({
    bills: list(build, contract.listBills),
    billsInAll: read(build, contract.billsInAll),
    bill: read(build, contract.getBill),
    billable: read(build, contract.billable),
    carriersBills: read(build, carriers.carriersBills),
    foreseeBill: foresee(build, contract.createBill),
    createBill: write(build, contract.createBill),
    postBill: write(build, contract.postBill),
    undoBill: write(build, contract.undoBill),
    pay: write(build, contract.pay),
    undoPayment: write(build, contract.undoPayment),
  }),
});
export const {
  useBillsInfiniteQuery,
  useBillsInAllQuery,
  useBillQuery,
  useBillableQuery,
  useCarriersBillsQuery,
  useForeseeBillQuery,
  useCreateBillMutation,
  usePostBillMutation,
  useUndoBillMutation,
  usePayMutation,
  useUndoPaymentMutation,
} = bills;
