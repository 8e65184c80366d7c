import * as corrections from '@larder/contract/corrections';
import * as lots from '@larder/contract/lots';
import * as moves from '@larder/contract/moves';
import * as contract from '@larder/contract/stock';
import { api, floorWrite, foresee, list, read, write } from '../../shared/api';

const stock = api.injectEndpoints({
  endpoints: (build) => ({
    stockTable: list(build, contract.stockTable),
    stockInAll: read(build, contract.stockInAll),
    pastStock: list(build, contract.pastStock),
    pastInAll: read(build, contract.pastInAll),
    binContents: read(build, contract.binContents),
    correctionReport: list(build, corrections.correctionReport),
    correctionsInAll: read(build, corrections.correctionsInAll),
    foreseeCorrection: foresee(build, contract.correct),
    correct: write(build, contract.correct),
    moveGoods: floorWrite(build, moves.moveGoods),
    toPutAway: read(build, moves.toPutAway),
    foreseeOpening: foresee(build, contract.openStock),
    openStock: write(build, contract.openStock),
    lotList: list(build, lots.listLots),
    lotsInAll: read(build, lots.lotsInAll),
    lot: read(build, lots.getLot),
    trace: read(build, lots.traceLot),
    editLot: write(build, lots.editLot),
  }),
});
export const {
  useStockTableInfiniteQuery,
  useStockInAllQuery,
  usePastStockInfiniteQuery,
  usePastInAllQuery,
  useBinContentsQuery,
  useCorrectionReportInfiniteQuery,
  useCorrectionsInAllQuery,
  useForeseeCorrectionQuery,
  useCorrectMutation,
  useMoveGoodsMutation,
  useToPutAwayQuery,
  useForeseeOpeningQuery,
  useOpenStockMutation,
  useLotListInfiniteQuery,
  useLotsInAllQuery,
  useLotQuery,
  useTraceQuery,
  useEditLotMutation,
} = stock;
