import * as contract from '@larder/contract/setup';
import * as lists from '@larder/contract/setupLists';
import { api, read, write } from '../../shared/api';

const setup = api.injectEndpoints({
  endpoints: (build) => ({
    setupLists: read(build, lists.setupLists),
    createSite: write(build, contract.createSite),
    editSite: write(build, lists.editSite),
    editCompany: write(build, contract.editCompany),
    createBins: write(build, contract.createBins),
    editBins: write(build, contract.editBins),
    retireSite: write(build, contract.retireSite),
    createCategory: write(build, contract.createCategory),
    editCategory: write(build, contract.editCategory),
    createUnit: write(build, contract.createUnit),
    editUnit: write(build, lists.editUnit),
    createReason: write(build, lists.createReason),
    editReason: write(build, lists.editReason),
    createTax: write(build, lists.createTax),
    editTax: write(build, lists.editTax),
    addTaxRate: write(build, lists.addTaxRate),
    editNumber: write(build, lists.editNumber),
    retireListed: write(build, lists.retireListed),
  }),
});
export const {
  useSetupListsQuery,
  useCreateSiteMutation,
  useEditSiteMutation,
  useEditCompanyMutation,
  useCreateBinsMutation,
  useEditBinsMutation,
  useRetireSiteMutation,
  useCreateCategoryMutation,
  useEditCategoryMutation,
  useCreateUnitMutation,
  useEditUnitMutation,
  useCreateReasonMutation,
  useEditReasonMutation,
  useCreateTaxMutation,
  useEditTaxMutation,
  useAddTaxRateMutation,
  useEditNumberMutation,
  useRetireListedMutation,
} = setup;
