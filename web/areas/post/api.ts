import * as contract from '@larder/contract/post';
import * as recalls from '@larder/contract/recalls';
import { api, list, read, write } from '../../shared/api';

const post = api.injectEndpoints({
  endpoints: (build) => ({
    orderLetter: read(build, contract.orderLetter),
    sendOrder: write(build, contract.sendOrder),
    keepTemplate: write(build, contract.keepTemplate),
    saleLetter: read(build, contract.saleLetter),
    sendSale: write(build, contract.sendSale),
    keepSaleTemplate: write(build, contract.keepSaleTemplate),
    invoiceLetter: read(build, contract.invoiceLetter),
    sendInvoice: write(build, contract.sendInvoice),
    keepInvoiceTemplate: write(build, contract.keepInvoiceTemplate),
    letters: list(build, contract.listLetters),
    sendAgain: write(build, contract.sendAgain),
    sendSaleAgain: write(build, contract.sendSaleAgain),
    sendInvoiceAgain: write(build, contract.sendInvoiceAgain),
    sendNoticeAgain: write(build, contract.sendNoticeAgain),
    sendRecallAgain: write(build, contract.sendRecallAgain),
    recall: read(build, recalls.recallList),
    sendRecall: write(build, recalls.sendRecall),
    keepRecallTemplate: write(build, recalls.keepRecallTemplate),
  }),
});
export const {
  useOrderLetterQuery,
  useSendOrderMutation,
  useKeepTemplateMutation,
  useSaleLetterQuery,
  useSendSaleMutation,
  useKeepSaleTemplateMutation,
  useInvoiceLetterQuery,
  useSendInvoiceMutation,
  useKeepInvoiceTemplateMutation,
  useLettersInfiniteQuery,
  useSendAgainMutation,
  useSendSaleAgainMutation,
  useSendInvoiceAgainMutation,
  useSendNoticeAgainMutation,
  useSendRecallAgainMutation,
  useRecallQuery,
  useSendRecallMutation,
  useKeepRecallTemplateMutation,
} = post;
