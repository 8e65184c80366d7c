import * as contract from '@larder/contract/planning';
import { api, read, write } from '../../shared/api';

const planning = api.injectEndpoints({
  endpoints: (build) => ({
    today: read(build, contract.today),
    openCounts: read(build, contract.openCounts),
    firstSteps: read(build, contract.firstSteps),
    putFirstStepsAway: write(build, contract.putFirstStepsAway),
    topUp: read(build, contract.topUpList),
    orderTopUp: write(build, contract.orderTopUp),
  }),
});
export const { useTodayQuery, useOpenCountsQuery, useFirstStepsQuery, usePutFirstStepsAwayMutation, useTopUpQuery, useOrderTopUpMutation } = planning;
