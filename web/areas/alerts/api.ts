import * as contract from '@larder/contract/alerts';
import { api, list, read, write } from '../../shared/api';

const alerts = api.injectEndpoints({
  endpoints: (build) => ({
    alerts: list(build, contract.listAlerts),
    allAlerts: list(build, contract.listAllAlerts),
    seeAlerts: write(build, contract.seeAlerts),
    alertWishes: read(build, contract.alertWishes),
    setAlertWishes: write(build, contract.setAlertWishes),
  }),
});
export const { useAlertsInfiniteQuery, useAllAlertsInfiniteQuery, useSeeAlertsMutation, useAlertWishesQuery, useSetAlertWishesMutation } = alerts;
