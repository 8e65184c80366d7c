import * as contract from '@larder/contract/people';
import { api, read } from './api';

/** Who is signed in. */
const meApi = api.injectEndpoints({
  endpoints: (build) => ({
    me: read(build, contract.me),
  }),
});
export const { useMeQuery } = meApi;
