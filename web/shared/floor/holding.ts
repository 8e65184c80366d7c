import { countCalendar, getCount, listCounts } from '@larder/contract/counts';
import type { Endpoint, ResponseOf } from '@larder/contract/endpoint';
import { heldCount, heldSite } from '@larder/contract/floor';
import { toPutAway } from '@larder/contract/moves';
import { me } from '@larder/contract/people';
import { getRound, pickQueue } from '@larder/contract/picking';
import { firstSteps, openCounts, today } from '@larder/contract/planning';
import { receivingDesk } from '@larder/contract/receiving';
import { listBins, reference } from '@larder/contract/setup';
import { ask, pathOf, type AskedHere } from '../ask';
import { hold } from './answers';
import { connection } from './connection';

/** Where nobody chose a site, so many are held. */
const mostSites = 3;
/** So many counts are held. */
const mostCounts = 5;

/** Reads something and holds what was answered; null where the connection is lost, or it is not for this person. */
async function take<E extends Endpoint>(endpoint: E, asked: AskedHere): Promise<ResponseOf<E> | null> {
  const path = pathOf(endpoint, asked);
  const { data, error } = await ask({ method: 'GET', path, patience: 60_000 });
  if (error !== undefined) return null;
  await hold(endpoint, path, data);
  return data as ResponseOf<E>;
}

/** Holds what the floor of a site works with: its codes and bins, what comes in, what is to be put away, picked and counted. */
export async function holdAll(siteId: number | undefined): Promise<void> {
  const who = await take(me, {});
  if (!who || connection.lostSince() !== null) return;
  const known = await take(reference, {});
  const site = { siteId };
  await take(listBins, { query: {} });
  await take(receivingDesk, { query: site });
  await take(toPutAway, { query: site });
  await take(today, { query: site });
  await take(openCounts, { query: site });
  await take(countCalendar, { query: site });
  await take(firstSteps, {});
  const queue = await take(pickQueue, { query: { ...site, kind: 'all' } });
  for (const { id, pickerId } of queue?.rounds ?? []) if (pickerId === who.id) await take(getRound, { params: { id } });
  const counts = await take(listCounts, { query: { show: 'open', ...site, limit: 50 } });
  for (const { id } of (counts?.rows ?? []).slice(0, mostCounts)) {
    await take(getCount, { params: { id } });
    await take(heldCount, { params: { id } });
  }
  const sites = siteId === undefined ? (known?.sites ?? []).slice(0, mostSites).map(({ id }) => id) : [siteId];
  for (const id of sites) {
    await take(listBins, { query: { siteId: id } });
    await take(heldSite, { params: { id } });
  }
}
