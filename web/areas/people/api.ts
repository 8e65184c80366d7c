import * as contract from '@larder/contract/people';
import { api, read, write } from '../../shared/api';

const people = api.injectEndpoints({
  endpoints: (build) => ({
    door: read(build, contract.door),
    begin: write(build, contract.begin),
    signIn: write(build, contract.signIn),
    signOut: write(build, contract.signOut),
    changePassword: write(build, contract.changePassword),
    sessions: read(build, contract.listSessions),
    endSession: write(build, contract.endSessionOf),
  }),
});
export const { useDoorQuery, useBeginMutation, useSignInMutation, useSignOutMutation, useChangePasswordMutation, useSessionsQuery, useEndSessionMutation } =
  people;
