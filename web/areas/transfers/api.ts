import * as contract from '@larder/contract/transfers';
import { api, floorWrite, foresee, list, read, write } from '../../shared/api';

const transfers = api.injectEndpoints({
  endpoints: (build) => ({
    transfers: list(build, contract.listTransfers),
    transfersInAll: read(build, contract.transfersInAll),
    transfer: read(build, contract.getTransfer),
    transferFigures: read(build, contract.transferFigures),
    transferProposals: read(build, contract.transferProposals),
    transferPickList: read(build, contract.transferPickList),
    foreseeTransfer: foresee(build, contract.createTransfer),
    createTransfer: write(build, contract.createTransfer),
    foreseeTransferChange: foresee(build, contract.changeTransfer),
    changeTransfer: write(build, contract.changeTransfer),
    cancelTransfer: write(build, contract.cancelTransfer),
    foreseeTransferPick: foresee(build, contract.pickTransfer),
    pickTransfer: floorWrite(build, contract.pickTransfer),
    foreseeTransferSent: foresee(build, contract.sendTransfer),
    sendTransfer: write(build, contract.sendTransfer),
    foreseeTransferLost: foresee(build, contract.loseTransfer),
    loseTransfer: write(build, contract.loseTransfer),
  }),
});
export const {
  useTransfersInfiniteQuery,
  useTransfersInAllQuery,
  useTransferQuery,
  useTransferFiguresQuery,
  useTransferProposalsQuery,
  useTransferPickListQuery,
  useForeseeTransferQuery,
  useCreateTransferMutation,
  useForeseeTransferChangeQuery,
  useChangeTransferMutation,
  useCancelTransferMutation,
  useForeseeTransferPickQuery,
  usePickTransferMutation,
  useForeseeTransferSentQuery,
  useSendTransferMutation,
  useForeseeTransferLostQuery,
  useLoseTransferMutation,
} = transfers;
