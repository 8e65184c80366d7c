import * as contract from '@larder/contract/people';
import { api, read, write } from '../../app/api';

const people = api.injectEndpoints({
  endpoints: (build) => ({ me: read(build, contract.me), signIn: write(build, contract.signIn), signOut: write(build, contract.signOut) }),
});
export const { useMeQuery, useSignInMutation, useSignOutMutation } = people;
