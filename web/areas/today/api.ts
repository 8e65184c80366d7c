import * as contract from '@larder/contract/planning';
import { api, read, write } from '../../shared/api';

const todayApi = api.injectEndpoints({
  endpoints: (build) => ({
    today: read(build, contract.today),
    openCounts: read(build, contract.openCounts),
    firstSteps: read(build, contract.firstSteps),
    putFirstStepsAway: write(build, contract.putFirstStepsAway),
  }),
});
export const { useTodayQuery, useOpenCountsQuery, useFirstStepsQuery, usePutFirstStepsAwayMutation } = todayApi;
