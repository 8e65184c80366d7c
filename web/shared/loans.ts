import * as contract from '@larder/contract/loans';
import { api, list, read } from './api';

/** Loans as they are listed, which Today tells as well. */
const loansApi = api.injectEndpoints({
  endpoints: (build) => ({ loans: list(build, contract.listLoans), loansInAll: read(build, contract.loansInAll) }),
});
export const { useLoansInfiniteQuery, useLoansInAllQuery } = loansApi;
