import { listPriceLists } from '@larder/contract/prices';
import * as contract from '@larder/contract/setup';
import { api, list, read, write } from './api';

/** What forms choose from: sites, bins, categories, units, taxes, reasons, price lists, suppliers and customers. */
const referenceApi = api.injectEndpoints({
  endpoints: (build) => ({
    reference: read(build, contract.reference),
    bins: read(build, contract.listBins),
    parties: read(build, contract.listParties),
    party: read(build, contract.getParty),
    partyList: list(build, contract.partyList),
    partiesInAll: read(build, contract.partiesInAll),
    retireParty: write(build, contract.retireParty),
    createParty: write(build, contract.createParty),
    editParty: write(build, contract.editParty),
    priceLists: read(build, listPriceLists),
  }),
});
export const {
  useReferenceQuery,
  useBinsQuery,
  usePartiesQuery,
  usePartyQuery,
  usePartyListInfiniteQuery,
  usePartiesInAllQuery,
  useRetirePartyMutation,
  useCreatePartyMutation,
  useEditPartyMutation,
  usePriceListsQuery,
} = referenceApi;

/** The rows that something new may be given: those in use, and what it has already. */
export const inUse = <R extends { id: number; retired: boolean }>(rows: readonly R[] | undefined, has: number | null = null): R[] =>
  (rows ?? []).filter(({ id, retired }) => !retired || id === has);
