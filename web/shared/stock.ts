import * as explain from '@larder/contract/explain';
import * as lots from '@larder/contract/lots';
import * as contract from '@larder/contract/stock';
import { api, foresee, list, read, write } from './api';

/** What of an item is where, and the undoing of postings. */
const stockApi = api.injectEndpoints({
  endpoints: (build) => ({
    itemStock: read(build, contract.itemStock),
    pastItem: read(build, contract.pastItem),
    explained: read(build, explain.explained),
    trail: read(build, contract.trail),
    trailList: list(build, contract.trail),
    foreseeUndo: foresee(build, contract.undo),
    undo: write(build, contract.undo),
    knownSerials: read(build, lots.knownSerials),
  }),
});
export const {
  useItemStockQuery,
  usePastItemQuery,
  useExplainedQuery,
  useTrailQuery,
  useTrailListInfiniteQuery,
  useForeseeUndoQuery,
  useUndoMutation,
  useKnownSerialsQuery,
} = stockApi;
