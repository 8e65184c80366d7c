import * as contract from '@larder/contract/handover';
import { api, read, write } from '../../shared/api';

const handover = api.injectEndpoints({
  endpoints: (build) => ({
    handover: read(build, contract.handover),
    handed: read(build, contract.listHanded),
    compare: read(build, contract.compare),
    bringInAccounts: write(build, contract.bringInAccounts),
    mapAccounts: write(build, contract.mapAccounts),
    handOver: write(build, contract.handOver),
    takeBack: write(build, contract.takeBack),
  }),
});
export const {
  useHandoverQuery,
  useHandedQuery,
  useCompareQuery,
  useBringInAccountsMutation,
  useMapAccountsMutation,
  useHandOverMutation,
  useTakeBackMutation,
} = handover;
