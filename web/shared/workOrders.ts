import * as contract from '@larder/contract/workOrders';
import { api, list, read } from './api';

/** Work orders as they are listed, which Today and items tell as well. */
const workApi = api.injectEndpoints({
  endpoints: (build) => ({ workOrders: list(build, contract.listWorkOrders), workOrdersInAll: read(build, contract.workOrdersInAll) }),
});
export const { useWorkOrdersInfiniteQuery, useWorkOrdersInAllQuery } = workApi;
