import * as contract from '@larder/contract/returns';
import { api, list } from './api';

const returns = api.injectEndpoints({ endpoints: (build) => ({ returns: list(build, contract.listReturns) }) });
/** What customers brought back, or will. */
export const { useReturnsInfiniteQuery } = returns;
