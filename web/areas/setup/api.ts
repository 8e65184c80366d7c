import * as contract from '@larder/contract/setup';
import { api, write } from '../../shared/api';

const setup = api.injectEndpoints({
  endpoints: (build) => ({
    createSite: write(build, contract.createSite),
    editCompany: write(build, contract.editCompany),
    createBins: write(build, contract.createBins),
    editBins: write(build, contract.editBins),
    retireSite: write(build, contract.retireSite),
    createCategory: write(build, contract.createCategory),
    editCategory: write(build, contract.editCategory),
    createUnit: write(build, contract.createUnit),
  }),
});
export const {
  useCreateSiteMutation,
  useEditCompanyMutation,
  useCreateBinsMutation,
  useEditBinsMutation,
  useRetireSiteMutation,
  useCreateCategoryMutation,
  useEditCategoryMutation,
  useCreateUnitMutation,
} = setup;
