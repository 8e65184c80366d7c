import * as contract from '@larder/contract/landed';
import { api, foresee, read, write } from '../../shared/api';

const landed = api.injectEndpoints({
  endpoints: (build) => ({
    receipts: read(build, contract.receipts),
    receiptLines: read(build, contract.receiptLines),
    sheets: read(build, contract.listSheets),
    sheet: read(build, contract.getSheet),
    foreseeSheet: foresee(build, contract.createSheet),
    foreseeSheetEdit: foresee(build, contract.editSheet),
    createSheet: write(build, contract.createSheet),
    editSheet: write(build, contract.editSheet),
    undoSheet: write(build, contract.undoSheet),
    measureItem: write(build, contract.measureItem),
  }),
});
export const {
  useReceiptsQuery,
  useReceiptLinesQuery,
  useSheetsQuery,
  useSheetQuery,
  useForeseeSheetQuery,
  useForeseeSheetEditQuery,
  useCreateSheetMutation,
  useEditSheetMutation,
  useUndoSheetMutation,
  useMeasureItemMutation,
} = landed;
