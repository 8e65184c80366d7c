import * as contract from '@larder/contract/exchange';
import { api, list, read, write } from '../../shared/api';

const exchange = api.injectEndpoints({
  endpoints: (build) => ({
    checkImport: write(build, contract.checkImport),
    importReport: read(build, contract.getImport),
    importRows: list(build, contract.getImport),
    runImport: write(build, contract.runImport),
    cancelImport: write(build, contract.cancelImport),
    keptColumns: write(build, contract.keptColumns),
  }),
});
export const {
  useCheckImportMutation,
  useImportReportQuery,
  useImportRowsInfiniteQuery,
  useRunImportMutation,
  useCancelImportMutation,
  useKeptColumnsMutation,
} = exchange;
