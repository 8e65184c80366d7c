import * as contract from '@larder/contract/making';
import { api, read } from './api';

/** What an item goes into, and its own bills. */
const madeApi = api.injectEndpoints({ endpoints: (build) => ({ whereUsed: read(build, contract.whereUsed) }) });
export const { useWhereUsedQuery } = madeApi;
