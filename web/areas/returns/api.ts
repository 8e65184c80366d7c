import * as contract from '@larder/contract/returns';
import { api, foresee, list, read, write } from '../../shared/api';

const returns = api.injectEndpoints({
  endpoints: (build) => ({
    returnsInAll: read(build, contract.returnsInAll),
    returnReport: list(build, contract.returnReport),
    returnReportInAll: read(build, contract.returnReportInAll),
    customerReturn: read(build, contract.getReturn),
    held: read(build, contract.listHeld),
    foreseeCustomerReturn: foresee(build, contract.createReturn),
    createReturn: write(build, contract.createReturn),
    editReturn: write(build, contract.editReturn),
    discardReturn: write(build, contract.discardReturn),
  }),
});
export const {
  useReturnsInAllQuery,
  useReturnReportInfiniteQuery,
  useReturnReportInAllQuery,
  useCustomerReturnQuery,
  useHeldQuery,
  useLazyHeldQuery,
  useForeseeCustomerReturnQuery,
  useCreateReturnMutation,
  useEditReturnMutation,
  useDiscardReturnMutation,
} = returns;
