import * as contract from '@larder/contract/loans';
import { api, foresee, list, read, write } from '../../shared/api';

const loans = api.injectEndpoints({
  endpoints: (build) => ({
    loan: read(build, contract.getLoan),
    canBeLent: read(build, contract.canBeLent),
    foreseeLend: foresee(build, contract.lend),
    lend: write(build, contract.lend),
    changeLoan: write(build, contract.changeLoan),
    foreseeBack: foresee(build, contract.bringBack),
    bringBack: write(build, contract.bringBack),
    foreseeLost: foresee(build, contract.loseLoan),
    loseLoan: write(build, contract.loseLoan),
    holders: list(build, contract.listHolders),
    holdersInAll: read(build, contract.holdersInAll),
    holder: read(build, contract.getHolder),
    createHolder: write(build, contract.createHolder),
    editHolder: write(build, contract.editHolder),
    becomeHolder: write(build, contract.becomeHolder),
  }),
});
export const {
  useLoanQuery,
  useCanBeLentQuery,
  useForeseeLendQuery,
  useLendMutation,
  useChangeLoanMutation,
  useForeseeBackQuery,
  useBringBackMutation,
  useForeseeLostQuery,
  useLoseLoanMutation,
  useHoldersInfiniteQuery,
  useHoldersInAllQuery,
  useHolderQuery,
  useCreateHolderMutation,
  useEditHolderMutation,
  useBecomeHolderMutation,
} = loans;
