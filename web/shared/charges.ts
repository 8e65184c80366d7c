import * as contract from '@larder/contract/landed';
import { api, read } from './api';

const charges = api.injectEndpoints({ endpoints: (build) => ({ clearing: read(build, contract.clearing) }) });
/** Charges of worksheets that are still to be billed. */
export const { useClearingQuery } = charges;
