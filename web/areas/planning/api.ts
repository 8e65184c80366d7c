import * as levels from '@larder/contract/levels';
import * as contract from '@larder/contract/planning';
import { api, list, read, write } from '../../shared/api';

const planning = api.injectEndpoints({
  endpoints: (build) => ({
    today: read(build, contract.today),
    openCounts: read(build, contract.openCounts),
    firstSteps: read(build, contract.firstSteps),
    putFirstStepsAway: write(build, contract.putFirstStepsAway),
    topUp: read(build, contract.topUpList),
    orderTopUp: write(build, contract.orderTopUp),
    levels: list(build, levels.listLevels),
    levelsInAll: read(build, levels.levelsInAll),
    level: read(build, levels.getLevel),
    setLevels: write(build, levels.setLevels),
    decideLevels: write(build, levels.decideLevels),
    lastLook: read(build, levels.lastLook),
    startLook: write(build, levels.startLook),
    stopLook: write(build, levels.stopLook),
    events: read(build, levels.listEvents),
    createEvent: write(build, levels.createEvent),
    changeEvent: write(build, levels.changeEvent),
    dropEvent: write(build, levels.dropEvent),
  }),
});
export const {
  useTodayQuery,
  useOpenCountsQuery,
  useFirstStepsQuery,
  usePutFirstStepsAwayMutation,
  useTopUpQuery,
  useOrderTopUpMutation,
  useLevelsInfiniteQuery,
  useLevelsInAllQuery,
  useLevelQuery,
  useSetLevelsMutation,
  useDecideLevelsMutation,
  useLastLookQuery,
  useStartLookMutation,
  useStopLookMutation,
  useEventsQuery,
  useCreateEventMutation,
  useChangeEventMutation,
  useDropEventMutation,
} = planning;
