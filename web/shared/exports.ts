import * as contract from '@larder/contract/exchange';
import { api, read } from './api';

/** Which fields a list can be exported with. */
const exportsApi = api.injectEndpoints({
  endpoints: (build) => ({
    exportFields: read(build, contract.exportFields),
  }),
});
export const { useExportFieldsQuery } = exportsApi;
