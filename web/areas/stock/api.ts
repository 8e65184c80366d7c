import * as contract from '@larder/contract/stock';
import { api, foresee, read, write } from '../../shared/api';

const stock = api.injectEndpoints({
  endpoints: (build) => ({
    stockTable: read(build, contract.stockTable),
    trail: read(build, contract.trail),
    binContents: read(build, contract.binContents),
    foreseeCorrection: foresee(build, contract.correct),
    correct: write(build, contract.correct),
    foreseeOpening: foresee(build, contract.openStock),
    openStock: write(build, contract.openStock),
    lots: read(build, contract.listLots),
    lot: read(build, contract.getLot),
    trace: read(build, contract.traceLot),
    editLot: write(build, contract.editLot),
  }),
});
export const {
  useStockTableQuery,
  useTrailQuery,
  useBinContentsQuery,
  useForeseeCorrectionQuery,
  useCorrectMutation,
  useForeseeOpeningQuery,
  useOpenStockMutation,
  useLotsQuery,
  useLotQuery,
  useTraceQuery,
  useEditLotMutation,
} = stock;
