import * as contract from '@larder/contract/floor';
import type { Serve } from '../../http/route';
import { heldCount, heldSite, whereItLies } from './queries';

/** What phones on the floor hold and ask. */
export function floorRoutes(serve: Serve): void {
  serve(contract.heldSite, (act, { params }) => heldSite(act, params.id));
  serve(contract.heldCount, (act, { params }) => heldCount(act, params.id));
  serve(contract.whereItLies, (act, { params, query }) => whereItLies(act, params.id, query.siteId));
}
