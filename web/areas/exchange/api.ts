import * as contract from '@larder/contract/exchange';
import { api, read, write } from '../../shared/api';

const exchange = api.injectEndpoints({
  endpoints: (build) => ({
    checkImport: write(build, contract.checkImport),
    importReport: read(build, contract.getImport),
    runImport: write(build, contract.runImport),
    cancelImport: write(build, contract.cancelImport),
    keptColumns: write(build, contract.keptColumns),
  }),
});
export const { useCheckImportMutation, useImportReportQuery, useRunImportMutation, useCancelImportMutation, useKeptColumnsMutation } = exchange;
