import * as contract from '@larder/contract/planning';
import type { Serve } from '../../http/route';
import { openCounts, today, topUpList } from './queries';
import { firstSteps, putFirstStepsAway } from './firstSteps';
import { orderTopUp } from './service';

export function planningRoutes(serve: Serve): void {
  serve(contract.topUpList, async (act, { query }) => ({ rows: await topUpList(act, query.siteId) }));
  serve(contract.orderTopUp, (act, { body }) => orderTopUp(act, body));
  serve(contract.today, (act, { query }) => today(act, query.siteId));
  serve(contract.openCounts, (act, { query }) => openCounts(act, query.siteId));
  serve(contract.firstSteps, (act) => firstSteps(act));
  serve(contract.putFirstStepsAway, (act, { body }) => putFirstStepsAway(act, body.away));
}
