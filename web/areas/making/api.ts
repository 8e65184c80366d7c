import * as contract from '@larder/contract/making';
import * as planning from '@larder/contract/planning';
import { api, list, read, write } from '../../shared/api';

const making = api.injectEndpoints({
  endpoints: (build) => ({
    boms: list(build, contract.listBoms),
    bom: read(build, contract.getBom),
    createBom: write(build, contract.createBom),
    editBom: write(build, contract.editBom),
    retireBom: write(build, contract.retireBom),
    bomCost: read(build, contract.bomCost),
    canMakeItem: read(build, contract.canMakeItem),
    canMakeAll: read(build, contract.canMakeAll),
    orderMissing: write(build, planning.orderTopUp),
  }),
});
export const {
  useBomsInfiniteQuery,
  useBomQuery,
  useCreateBomMutation,
  useEditBomMutation,
  useRetireBomMutation,
  useBomCostQuery,
  useCanMakeItemQuery,
  useCanMakeAllQuery,
  useOrderMissingMutation,
} = making;
