import * as contract from '@larder/contract/planning';
import type { Serve } from '../../http/route';
import { putOffTopUp } from './putOff';
import { openCounts, today } from './queries';
import { firstSteps, putFirstStepsAway } from './firstSteps';
import { orderTopUp } from './service';
import { minimumsOf, topUpFill, topUpList } from './topUp';

export function planningRoutes(serve: Serve): void {
  serve(contract.topUpList, async (act, { query }) => {
    const rows = await topUpList(act, query);
    return { rows, minimums: await minimumsOf(act, rows) };
  });
  serve(contract.topUpFill, (act, { query }) => topUpFill(act, query.supplierId, query.siteId));
  serve(contract.putOffTopUp, (act, { body }) => putOffTopUp(act, body));
  serve(contract.orderTopUp, (act, { body }) => orderTopUp(act, body));
  serve(contract.today, (act, { query }) => today(act, query.siteId));
  serve(contract.openCounts, (act, { query }) => openCounts(act, query.siteId));
  serve(contract.firstSteps, (act) => firstSteps(act));
  serve(contract.putFirstStepsAway, (act, { body }) => putFirstStepsAway(act, body.away));
}
