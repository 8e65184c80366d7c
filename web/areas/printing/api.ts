import * as contract from '@larder/contract/printing';
import { api, read, write } from '../../shared/api';

const printing = api.injectEndpoints({
  endpoints: (build) => ({
    previewLabels: read(build, contract.previewLabels),
    printLabels: write(build, contract.printLabels),
    prints: read(build, contract.listPrints),
  }),
});
export const { usePreviewLabelsQuery, usePrintLabelsMutation, usePrintsQuery } = printing;
