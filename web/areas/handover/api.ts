import * as contract from '@larder/contract/handover';
import { api, list, read, write } from '../../shared/api';

const handover = api.injectEndpoints({
  endpoints: (build) => ({
    handover: read(build, contract.handover),
    handed: list(build, contract.listHanded),
    compare: read(build, contract.compare),
    bringInAccounts: write(build, contract.bringInAccounts),
    mapAccounts: write(build, contract.mapAccounts),
    handOver: write(build, contract.handOver),
    takeBack: write(build, contract.takeBack),
  }),
});
export const {
  useHandoverQuery,
  useHandedInfiniteQuery,
  useCompareQuery,
  useBringInAccountsMutation,
  useMapAccountsMutation,
  useHandOverMutation,
  useTakeBackMutation,
} = handover;
