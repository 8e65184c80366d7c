import * as contract from '@larder/contract/planning';
import { api, read, write } from '../../app/api';

const planning = api.injectEndpoints({
  endpoints: (build) => ({
    today: read(build, contract.today),
    openCounts: read(build, contract.openCounts),
    topUp: read(build, contract.topUpList),
    orderTopUp: write(build, contract.orderTopUp),
    firstSteps: read(build, contract.firstSteps),
    putFirstStepsAway: write(build, contract.putFirstStepsAway),
  }),
});
export const { useTodayQuery, useOpenCountsQuery, useTopUpQuery, useOrderTopUpMutation, useFirstStepsQuery, usePutFirstStepsAwayMutation } = planning;
