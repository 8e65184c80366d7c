import { whereItLies } from '@larder/contract/floor';
import { api, read } from '../../shared/api';

/** What whoever stands before a thing asks. */
const floorApi = api.injectEndpoints({ endpoints: (build) => ({ whereItLies: read(build, whereItLies) }) });
export const { useWhereItLiesQuery } = floorApi;
