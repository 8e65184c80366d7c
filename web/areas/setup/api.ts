import * as contract from '@larder/contract/setup';
import { api, read, write } from '../../app/api';

const setup = api.injectEndpoints({
  endpoints: (build) => ({
    reference: read(build, contract.reference),
    bins: read(build, contract.listBins),
    parties: read(build, contract.listParties),
    createSite: write(build, contract.createSite),
    createBins: write(build, contract.createBins),
    editBins: write(build, contract.editBins),
    retireSite: write(build, contract.retireSite),
    createParty: write(build, contract.createParty),
    editParty: write(build, contract.editParty),
    createCategory: write(build, contract.createCategory),
    editCategory: write(build, contract.editCategory),
    createUnit: write(build, contract.createUnit),
  }),
});
export const {
  useReferenceQuery,
  useBinsQuery,
  usePartiesQuery,
  useCreateSiteMutation,
  useCreateBinsMutation,
  useEditBinsMutation,
  useRetireSiteMutation,
  useCreatePartyMutation,
  useEditPartyMutation,
  useCreateCategoryMutation,
  useEditCategoryMutation,
  useCreateUnitMutation,
} = setup;
