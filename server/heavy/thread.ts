import type { Endpoint } from '@larder/contract/endpoint';
import { workerData } from 'piscina';
import { goOn } from '../areas/goingOn';
import { areaRoutes } from '../areas/routes';
import { connect } from '../db/database';
import { problemOf } from '../http/problem';
import { makeLog } from '../log';
import { answerTo, nameOf, type Serve, type Service } from '../http/route';
import { progressIn } from './progress';
import type { Given, Returned } from './threads';

/** Inside a thread: the same areas on a few connections of its own. */
const log = makeLog();
const pool = connect((workerData as { url: string }).url, { max: 3, name: 'tidy-larder thread', heavy: true });
const served = new Map<string, { endpoint: Endpoint; service: Service<Endpoint> }>();
const serve: Serve = (endpoint, service) => served.set(nameOf(endpoint), { endpoint, service: service as unknown as Service<Endpoint> });
areaRoutes(serve, () => {
  throw new Error('what goes on is begun by the server, not by a thread');
});

export default async function work(given: Given): Promise<Returned> {
  if (given.kind === 'go on') {
    await goOn(pool, given.work);
    return { kind: 'done' };
  }
  try {
    const { endpoint, service } = served.get(given.endpoint) as { endpoint: Endpoint; service: Service<Endpoint> };
    const answer = await answerTo({ pool }, endpoint, service, given.call, progressIn(given.progress));
    const returned: Returned =
      endpoint.file === null ? { kind: 'json', json: new TextEncoder().encode(JSON.stringify(answer)) } : { kind: 'file', file: answer as never };
    return returned;
  } catch (error) {
    const problem = problemOf(error);
    if (problem.status >= 500) log.error({ err: error, endpoint: given.endpoint }, 'failed');
    return { kind: 'refused', problem };
  }
}
