import * as bearers from '@larder/contract/bearers';
import * as contract from '@larder/contract/books';
import { api, list, read, write } from '../../shared/api';

const books = api.injectEndpoints({
  endpoints: (build) => ({
    account: read(build, contract.getAccount),
    createAccount: write(build, contract.createAccount),
    editAccount: write(build, contract.editAccount),
    mapPurpose: write(build, contract.mapPurpose),
    journal: list(build, contract.journal),
    departmentReport: read(build, bearers.departmentReport),
    ownUse: list(build, bearers.ownUse),
    ownUseInAll: read(build, bearers.ownUseInAll),
  }),
});
export const {
  useAccountQuery,
  useCreateAccountMutation,
  useEditAccountMutation,
  useMapPurposeMutation,
  useJournalInfiniteQuery,
  useDepartmentReportQuery,
  useOwnUseInfiniteQuery,
  useOwnUseInAllQuery,
} = books;
