import * as picking from '@larder/contract/picking';
import { api, write } from './api';

/** Rounds are begun from wherever something is picked. */
const roundsApi = api.injectEndpoints({ endpoints: (build) => ({ startRound: write(build, picking.startRound) }) });
export const { useStartRoundMutation } = roundsApi;
