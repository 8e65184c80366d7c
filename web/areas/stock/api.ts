import * as lots from '@larder/contract/lots';
import * as contract from '@larder/contract/stock';
import { api, foresee, read, write } from '../../shared/api';

const stock = api.injectEndpoints({
  endpoints: (build) => ({
    stockTable: read(build, contract.stockTable),
    binContents: read(build, contract.binContents),
    foreseeCorrection: foresee(build, contract.correct),
    correct: write(build, contract.correct),
    foreseeOpening: foresee(build, contract.openStock),
    openStock: write(build, contract.openStock),
    lots: read(build, lots.listLots),
    lot: read(build, lots.getLot),
    trace: read(build, lots.traceLot),
    editLot: write(build, lots.editLot),
  }),
});
export const {
  useStockTableQuery,
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
