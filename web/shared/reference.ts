import * as contract from '@larder/contract/setup';
import { api, read, write } from './api';

/** What forms choose from: sites, bins, categories, units, taxes, reasons, suppliers and customers. */
const referenceApi = api.injectEndpoints({
  endpoints: (build) => ({
    reference: read(build, contract.reference),
    bins: read(build, contract.listBins),
    parties: read(build, contract.listParties),
    createParty: write(build, contract.createParty),
    editParty: write(build, contract.editParty),
  }),
});
export const { useReferenceQuery, useBinsQuery, usePartiesQuery, useCreatePartyMutation, useEditPartyMutation } = referenceApi;
