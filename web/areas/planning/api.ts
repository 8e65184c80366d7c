import * as contract from '@larder/contract/planning';
import { api, read, write } from '../../shared/api';

const planning = api.injectEndpoints({
  endpoints: (build) => ({
    topUp: read(build, contract.topUpList),
    orderTopUp: write(build, contract.orderTopUp),
  }),
});
export const { useTopUpQuery, useOrderTopUpMutation } = planning;
