import * as contract from '@larder/contract/stock';
import { api, foresee, read, write } from '../../app/api';

const stock = api.injectEndpoints({
  endpoints: (build) => ({
    stockTable: read(build, contract.stockTable),
    itemStock: read(build, contract.itemStock),
    trail: read(build, contract.trail),
    binContents: read(build, contract.binContents),
    foreseeCorrection: foresee(build, contract.correct),
    correct: write(build, contract.correct),
    foreseeOpening: foresee(build, contract.openStock),
    openStock: write(build, contract.openStock),
    knownSerials: read(build, contract.knownSerials),
    lots: read(build, contract.listLots),
    lot: read(build, contract.getLot),
    trace: read(build, contract.traceLot),
    editLot: write(build, contract.editLot),
    foreseeUndo: foresee(build, contract.undo),
    undo: write(build, contract.undo),
  }),
});
export const {
  useStockTableQuery,
  useItemStockQuery,
  useTrailQuery,
  useBinContentsQuery,
  useForeseeCorrectionQuery,
  useCorrectMutation,
  useForeseeOpeningQuery,
  useOpenStockMutation,
  useKnownSerialsQuery,
  useLotsQuery,
  useLotQuery,
  useTraceQuery,
  useEditLotMutation,
  useForeseeUndoQuery,
  useUndoMutation,
} = stock;
