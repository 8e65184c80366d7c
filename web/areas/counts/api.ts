import * as contract from '@larder/contract/counts';
import { api, foresee, list, read, write } from '../../shared/api';

const counts = api.injectEndpoints({
  endpoints: (build) => ({
    counts: list(build, contract.listCounts),
    countsInAll: read(build, contract.countsInAll),
    foreseeCount: read(build, contract.foreseeCount),
    createCount: write(build, contract.createCount),
    countSheet: read(build, contract.getCount),
    countBin: read(build, contract.countBin),
    takeBin: write(build, contract.takeBin),
    leaveBin: write(build, contract.leaveBin),
    enterCount: write(build, contract.enterCount),
    finishBin: write(build, contract.finishBin),
    reviewCount: read(build, contract.reviewCount),
    askRecount: write(build, contract.askRecount),
    foreseePostCount: foresee(build, contract.postCount),
    postCount: write(build, contract.postCount),
    closeCount: write(build, contract.closeCount),
    countAccuracy: read(build, contract.countAccuracy),
    editCalendar: write(build, contract.editCalendar),
  }),
});
export const {
  useCountsInfiniteQuery,
  useCountsInAllQuery,
  useForeseeCountQuery,
  useCreateCountMutation,
  useCountSheetQuery,
  useCountBinQuery,
  useTakeBinMutation,
  useLeaveBinMutation,
  useEnterCountMutation,
  useFinishBinMutation,
  useReviewCountQuery,
  useAskRecountMutation,
  useForeseePostCountQuery,
  usePostCountMutation,
  useCloseCountMutation,
  useCountAccuracyQuery,
  useEditCalendarMutation,
} = counts;
