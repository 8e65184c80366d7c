import * as contract from '@larder/contract/counts';
import type { Serve } from '../../http/route';
import { countAccuracy, countCalendar, editCalendar } from './calendar';
import { enterCount, finishBin, leaveBin, takeBin } from './counting';
import { nameLot } from './naming';
import { createCount, foreseeCount } from './planning';
import { binToCount, counts, countsInAll, getCount } from './queries';
import { reviewCount } from './review';
import { askRecount, closeCount, postCount } from './reviewing';

export function countRoutes(serve: Serve): void {
  serve(contract.foreseeCount, (act, { body }) => foreseeCount(act, body));
  serve(contract.createCount, (act, { body }) => createCount(act, body));
  serve(contract.listCounts, (act, { query }) => counts(act, query));
  serve(contract.countsInAll, (act, { query }) => countsInAll(act, query));
  serve(contract.countAccuracy, (act, { query }) => countAccuracy(act, query));
  serve(contract.countCalendar, (act, { query }) => countCalendar(act, query));
  serve(contract.editCalendar, (act, { body }) => editCalendar(act, body));
  serve(contract.getCount, (act, { params }) => getCount(act, params.id));
  serve(contract.countBin, (act, { params }) => binToCount(act, params.id, params.placeId));
  serve(contract.takeBin, (act, { params, body }) => takeBin(act, params, body.over));
  serve(contract.leaveBin, (act, { params }) => leaveBin(act, params));
  serve(contract.enterCount, (act, { params, body }) => enterCount(act, params, body));
  serve(contract.nameLot, (act, { params, body }) => nameLot(act, params, body));
  serve(contract.finishBin, (act, { params, body }) => finishBin(act, params, body.restIsNone));
  serve(contract.reviewCount, (act, { params, query }) => reviewCount(act, params.id, query));
  serve(contract.askRecount, (act, { params, body }) => askRecount(act, params.id, body.lineIds));
  serve(contract.postCount, (act, { params, body }) => postCount(act, params.id, body));
  serve(contract.closeCount, (act, { params }) => closeCount(act, params.id));
}
