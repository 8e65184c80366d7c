import * as contract from '@larder/contract/levels';
import * as low from '@larder/contract/runningLow';
import type { Serve } from '../../http/route';
import { changeEvent, createEvent, dropEvent, listEvents } from './events';
import { levelList, levelsInAll } from './levelList';
import { decideLevels, levelDetail, setLevels } from './levels';
import type { Looking } from './look';
import { lastLook, startLook, stopLook } from './looks';
import { lowInAll, lowList } from './runningLow';

export function levelRoutes(serve: Serve, begin: (looking: Looking) => void): void {
  serve(contract.listLevels, (act, { query }) => levelList(act, query));
  serve(contract.levelsInAll, (act, { query }) => levelsInAll(act, query));
  serve(contract.getLevel, (act, { params }) => levelDetail(act, params.itemId, params.siteId));
  serve(contract.setLevels, (act, { body }) => setLevels(act, body));
  serve(contract.decideLevels, (act, { body }) => decideLevels(act, body));
  serve(low.listLow, (act, { query }) => lowList(act, query));
  serve(low.lowInAll, (act, { query }) => lowInAll(act, query));
  serve(contract.lastLook, (act) => lastLook(act));
  serve(contract.startLook, (act) => startLook(act, begin));
  serve(contract.stopLook, (act, { params }) => stopLook(act, params.id));
  serve(contract.listEvents, (act) => listEvents(act));
  serve(contract.createEvent, (act, { body }) => createEvent(act, body));
  serve(contract.changeEvent, (act, { params, body }) => changeEvent(act, params.id, body));
  serve(contract.dropEvent, (act, { params }) => dropEvent(act, params.id));
}
