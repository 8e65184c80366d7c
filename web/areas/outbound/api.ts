import * as contract from '@larder/contract/outbound';
import { api, list, foresee, read, write } from '../../shared/api';

const outbound = api.injectEndpoints({
  endpoints: (build) => ({
    saleList: list(build, contract.listSales),
    salesInAll: read(build, contract.salesInAll),
    sale: read(build, contract.getSale),
    customerItems: read(build, contract.customerItems),
    availability: read(build, contract.availability),
    pickList: read(build, contract.pickList),
    createSale: write(build, contract.createSale),
    editSale: write(build, contract.editSale),
    foreseeConfirm: foresee(build, contract.confirmSale),
    confirmSale: write(build, contract.confirmSale),
    endSale: write(build, contract.endSale),
    foreseePick: foresee(build, contract.pick),
    pick: write(build, contract.pick),
    foreseeDispatch: foresee(build, contract.dispatch),
    dispatch: write(build, contract.dispatch),
  }),
});
export const {
  useSaleListInfiniteQuery,
  useSalesInAllQuery,
  useSaleQuery,
  useCustomerItemsQuery,
  useAvailabilityQuery,
  usePickListQuery,
  useCreateSaleMutation,
  useEditSaleMutation,
  useForeseeConfirmQuery,
  useConfirmSaleMutation,
  useEndSaleMutation,
  useForeseePickQuery,
  usePickMutation,
  useForeseeDispatchQuery,
  useDispatchMutation,
} = outbound;
