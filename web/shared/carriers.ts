import { listCarriers } from '@larder/contract/carriers';
import { api, read } from './api';

const carriers = api.injectEndpoints({ endpoints: (build) => ({ carriers: read(build, listCarriers) }) });
export const { useCarriersQuery } = carriers;
