import * as contract from '@larder/contract/lists';
import { api, read, write } from './api';

/** Views of lists that a person keeps. */
const viewsApi = api.injectEndpoints({
  endpoints: (build) => ({
    keptViews: read(build, contract.keptViews),
    keepView: write(build, contract.keepView),
    forgetView: write(build, contract.forgetView),
  }),
});
export const { useKeptViewsQuery, useKeepViewMutation, useForgetViewMutation } = viewsApi;
