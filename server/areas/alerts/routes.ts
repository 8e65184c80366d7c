import * as contract from '@larder/contract/alerts';
import type { Serve } from '../../http/route';
import { alertCount, alertWishes, listAlerts, listAllAlerts, seeAlerts, setAlertWishes } from './queries';

export function alertRoutes(serve: Serve): void {
  serve(contract.alertCount, (act) => alertCount(act));
  serve(contract.listAlerts, (act, { query }) => listAlerts(act, query));
  serve(contract.listAllAlerts, (act, { query }) => listAllAlerts(act, query));
  serve(contract.seeAlerts, (act, { body }) => seeAlerts(act, body.upTo));
  serve(contract.alertWishes, (act) => alertWishes(act));
  serve(contract.setAlertWishes, (act, { body }) => setAlertWishes(act, body));
}
