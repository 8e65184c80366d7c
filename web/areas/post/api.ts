import * as contract from '@larder/contract/post';
import { api, list, read, write } from '../../shared/api';

const post = api.injectEndpoints({
  endpoints: (build) => ({
    orderLetter: read(build, contract.orderLetter),
    sendOrder: write(build, contract.sendOrder),
    keepTemplate: write(build, contract.keepTemplate),
    letters: list(build, contract.listLetters),
    sendAgain: write(build, contract.sendAgain),
  }),
});
export const { useOrderLetterQuery, useSendOrderMutation, useKeepTemplateMutation, useLettersInfiniteQuery, useSendAgainMutation } = post;
