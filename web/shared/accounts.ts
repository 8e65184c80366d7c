import * as books from '@larder/contract/books';
import { api, read } from './api';

/** The accounts of the books. */
const accountsApi = api.injectEndpoints({
  endpoints: (build) => ({
    accounts: read(build, books.listAccounts),
  }),
});
export const { useAccountsQuery } = accountsApi;
