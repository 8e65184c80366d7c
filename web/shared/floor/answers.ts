import { heldCount, whereItLies as lies } from '@larder/contract/floor';
import { countBin, getCount, enterCount, finishBin, leaveBin, takeBin } from '@larder/contract/counts';
import { find, readCode } from '@larder/contract/catalog';
import type { Endpoint, ResponseOf } from '@larder/contract/endpoint';
import { toPutAway } from '@larder/contract/moves';
import { me } from '@larder/contract/people';
import { getRound, pick, pickList, pickQueue, pickRound } from '@larder/contract/picking';
import { receive, receivingDesk } from '@larder/contract/receiving';
import { binContents } from '@larder/contract/stock';
import { pickTransfer, transferPickList } from '@larder/contract/transfers';
import { binAfter, countedAfter, picksAfter, putAwayAfter, wantedAfter, type CountStep } from '@larder/core/floor/afterwards';
import { contentsOf, foundHere, lyingAfter, meantBy, whereItLies, type HeldSite } from '@larder/core/floor/held';
import type { AskedHere } from '../ask';
import { database, type HeldAnswer, type Waiting } from './database';
import { waitingOf } from './waiting';

const nameOf = ({ method, path }: Pick<Endpoint, 'method' | 'path'>): string => `${method} ${path}`;
const idIn = ({ params }: AskedHere, name = 'id'): number => Number((params as Record<string, unknown> | undefined)?.[name]);
const wordIn = ({ query }: AskedHere, name: string): string => String((query as Record<string, unknown> | undefined)?.[name] ?? '');

/** Where the answer at an address is held: what is asked for in another order is the same. */
function placeOf(path: string): string {
  const [address = '', search = ''] = path.split('?');
  const asked = new URLSearchParams(search);
  asked.sort();
  return asked.size > 0 ? `${address}?${asked}` : address;
}

let owner: number | null = null;
/** Whoever is signed in on this device; null while nobody is. */
export const ownerHere = (): number | null => owner;

/** Somebody else's answers are nobody's here: they are forgotten when another signs in, and when one signs out. What waits to be sent stays. */
export async function ownedBy(personId: number | null): Promise<void> {
  const kept = await database();
  const before = owner ?? (await kept.get('owner', 'owner')) ?? null;
  owner = personId;
  if (before === personId) return;
  sitesRead = null;
  await kept.clear('answers');
  if (personId === null) await kept.delete('owner', 'owner');
  else await kept.put('owner', personId, 'owner');
}

/** Keeps an answer for when there is no connection. `path` is the whole address. */
export async function hold(endpoint: Endpoint, path: string, data: unknown): Promise<void> {
  if (nameOf(endpoint) === nameOf(me)) await ownedBy((data as ResponseOf<typeof me>).id);
  if (owner === null) return;
  const kept = await database();
  const at = Date.now();
  await kept.put('answers', { at, data }, placeOf(path));
  if (isSiteAddress.test(path)) sitesRead = null;
  // The bins of a count are held as each of them is asked for.
  if (nameOf(endpoint) === nameOf(heldCount))
    for (const bin of (data as ResponseOf<typeof heldCount>).bins)
      await kept.put('answers', { at, data: bin }, `/api/counts/${path.split('/').at(-1) ?? ''}/bins/${bin.placeId}`);
}

const isSiteAddress = /^\/api\/floor\/sites\/\d+$/;

/** The sites this device holds, read once: they are long. */
let sitesRead: Promise<HeldSite[]> | null = null;

async function readSites(): Promise<HeldSite[]> {
  const kept = await database();
  const sites: HeldSite[] = [];
  for (const path of await kept.getAllKeys('answers')) if (isSiteAddress.test(path)) sites.push((await kept.get('answers', path))?.data as HeldSite);
  return sites;
}

const sitesHeld = (): Promise<HeldSite[]> => (sitesRead ??= readSites());

/** The sites this device holds, as they are after what waits. */
export async function sitesNow(): Promise<HeldSite[]> {
  const moves = waitingOf(owner).flatMap((one) => one.moves);
  return (await sitesHeld()).map((site) => {
    const bins = new Set(site.bins.map(({ id }) => id));
    const here = moves.map((move) => ({
      ...move,
      fromBinId: move.fromBinId !== null && bins.has(move.fromBinId) ? move.fromBinId : null,
      toBinId: move.toBinId !== null && bins.has(move.toBinId) ? move.toBinId : null,
    }));
    return { ...site, lying: lyingAfter(site.lying, here) };
  });
}

/** What can be said of the sites that are held, whether it was ever asked or not. */
const knownBySites: Record<string, (sites: HeldSite[], asked: AskedHere) => unknown> = {
  [nameOf(readCode)]: (sites, asked) => sites[0] && meantBy(sites[0], wordIn(asked, 'code')),
  [nameOf(find)]: (sites, asked) => {
    const found = sites.flatMap((site) => foundHere(site, wordIn(asked, 'q')));
    return { rows: found.filter((one, index) => found.findIndex(({ kind, id }) => kind === one.kind && id === one.id) === index) };
  },
  [nameOf(binContents)]: (sites, asked) => {
    const site = wordIn(asked, 'asOf') === '' ? sites.find(({ bins }) => bins.some(({ id }) => id === idIn(asked))) : undefined;
    const found = site && contentsOf(site, idIn(asked));
    return found && site ? { ...found.bin, siteId: site.siteId, site: site.site, rows: found.rows } : undefined;
  },
  [nameOf(lies)]: (sites, asked) => {
    const found = sites.map((site) => ({ site, here: whereItLies(site, idIn(asked)) }));
    const item = found.find(({ here }) => here)?.here?.item;
    const rows = found.flatMap(({ site: { siteId, site }, here }) => (here?.rows ?? []).map((row) => ({ siteId, site, ...row })));
    return item && { id: item.id, sku: item.sku, name: item.name, unit: item.unit, tracking: item.tracking, rows };
  },
};

/** What is known of something while there is no connection: from the sites that are held, else as it was answered last; undefined where nothing is. */
export async function known(endpoint: Endpoint, asked: AskedHere, path: string): Promise<unknown> {
  if (owner === null) owner = (await (await database()).get('owner', 'owner')) ?? null;
  if (owner === null) return undefined;
  const bySites = knownBySites[nameOf(endpoint)];
  if (bySites) {
    const sites = await sitesNow();
    const said = sites.length > 0 ? bySites(sites, asked) : undefined;
    if (said !== undefined) return said;
  }
  const kept: HeldAnswer | undefined = await (await database()).get('answers', placeOf(path));
  return kept?.data;
}

const isOf = (one: Waiting, endpoint: Endpoint): boolean => one.endpoint === nameOf(endpoint);
const bodyOf = <B>({ body }: Waiting): B => body as B;
type PickBody = Parameters<typeof picksAfter>[1][number];
const isPick = (one: Waiting): boolean => [pick, pickRound, pickTransfer].some((endpoint) => isOf(one, endpoint));
const picksOf = (waits: readonly Waiting[]): PickBody[] => waits.filter(isPick).map((one) => bodyOf<PickBody>(one));

/** What was done with a bin of a count. */
function countSteps(waits: readonly Waiting[], id: number, placeId: number): CountStep[] {
  return waits.flatMap((one): CountStep[] => {
    if (idIn(one) !== id || idIn(one, 'placeId') !== placeId) return [];
    if (isOf(one, takeBin)) return [{ does: 'take' }];
    if (isOf(one, leaveBin)) return [{ does: 'leave' }];
    if (isOf(one, finishBin)) return [{ does: 'finish' }];
    return isOf(one, enterCount) ? [{ does: 'enter', ...bodyOf<{ entries: Extract<CountStep, { does: 'enter' }>['entries'] }>(one) }] : [];
  });
}

type Bin = ResponseOf<typeof countBin>;
type Count = ResponseOf<typeof getCount>;
type Me = { id: number; name: string };

/** A line of a count for something that was not expected in a bin. */
function foundLine(sites: readonly HeldSite[], isBlind: boolean, { itemId, lotId }: { itemId: number; lotId: number | null }): Bin['rows'][number] | null {
  const item = sites[0]?.items.find(({ id }) => id === itemId);
  const lot = sites[0]?.lots.find(({ id }) => id === lotId);
  if (!item) return null;
  const { sku, name, unit, step, tracking, seq, codes } = item;
  const of = { lotId, lot: lot?.code ?? null, useBy: lot?.useBy ?? null, codes: tracking === 'serial' && lot ? [{ code: lot.code, factor: '1' }] : codes };
  return { itemId, sku, name, unit, step, tracking, seq, ...of, expected: isBlind ? null : '0', counted: null, recount: null, settled: false, listed: false };
}

/** The bin to go on with after one of a count: the next that nobody else counts and that is not done, round the sheet. */
function nextBin({ placeId, next }: Bin, sheet: Count | undefined, waits: readonly Waiting[], mine: Me): Bin['next'] {
  if (!sheet) return next;
  const bins = sheet.binRows.map((bin) => binAfter(bin, countSteps(waits, sheet.id, bin.placeId), mine));
  const at = bins.findIndex((bin) => bin.placeId === placeId);
  const found = [...bins.slice(at + 1), ...bins.slice(0, Math.max(at, 0))].find(
    ({ done, retired, heldById }) => !done && !retired && (heldById === null || heldById === mine.id),
  );
  return found ? { placeId: found.placeId, bin: found.bin } : null;
}

/** How answers are after what waits. */
const afterwards: Record<
  string,
  (data: never, waits: readonly Waiting[], asked: AskedHere, by: { me: Me; sites: HeldSite[]; sheet: Count | undefined }) => unknown
> = {
  [nameOf(toPutAway)]: (data: ResponseOf<typeof toPutAway>, waits) => ({
    rows: putAwayAfter(
      data.rows,
      waits.flatMap((one) => one.moves),
    ),
  }),
  [nameOf(getRound)]: (data: ResponseOf<typeof getRound>, waits) => ({
    ...data,
    rows: picksAfter(data.rows, picksOf(waits)),
    endedAt: waits.some((one) => isOf(one, pickRound) && idIn(one) === data.id && bodyOf<{ ends?: boolean }>(one).ends) ? data.startedAt : data.endedAt,
  }),
  [nameOf(pickList)]: (data: ResponseOf<typeof pickList>, waits) => ({ ...data, rows: picksAfter(data.rows, picksOf(waits)) }),
  [nameOf(transferPickList)]: (data: ResponseOf<typeof pickList>, waits) => ({ ...data, rows: picksAfter(data.rows, picksOf(waits)) }),
  [nameOf(pickQueue)]: (data: ResponseOf<typeof pickQueue>, waits) => ({
    ...data,
    rounds: data.rounds.filter(({ id }) => !waits.some((one) => isOf(one, pickRound) && idIn(one) === id && bodyOf<{ ends?: boolean }>(one).ends)),
  }),
  [nameOf(receivingDesk)]: (data: ResponseOf<typeof receivingDesk>, waits) => ({
    ...data,
    rows: wantedAfter(
      data.rows,
      waits.flatMap((one) => (isOf(one, receive) ? bodyOf<{ lines: Parameters<typeof wantedAfter>[1] }>(one).lines : [])),
    ),
  }),
  [nameOf(countBin)]: (data: Bin, waits, asked, { me: mine, sites, sheet }) => {
    const steps = countSteps(waits, idIn(asked), idIn(asked, 'placeId'));
    const rows = countedAfter(data.rows, steps, (thing) => foundLine(sites, data.blind, thing));
    return { ...binAfter(data, steps, mine), rows, next: nextBin(data, sheet, waits, mine) };
  },
  [nameOf(getCount)]: (data: Count, waits, asked, { me: mine }) => ({
    ...data,
    binRows: data.binRows.map((bin) => binAfter(bin, countSteps(waits, idIn(asked), bin.placeId), mine)),
  }),
};

/** An answer as it is after what waits on this device. */
export async function after(endpoint: Endpoint, asked: AskedHere, data: unknown): Promise<unknown> {
  const change = afterwards[nameOf(endpoint)];
  const waits = waitingOf(owner);
  if (!change || waits.length === 0 || data === undefined) return data;
  const mine: HeldAnswer | undefined = await (await database()).get('answers', me.path);
  const { id = 0, name = '' } = (mine?.data ?? {}) as Partial<Me>;
  const isBin = nameOf(endpoint) === nameOf(countBin);
  const sites = isBin ? await sitesHeld() : [];
  const sheet: HeldAnswer | undefined = isBin ? await (await database()).get('answers', `/api/counts/${idIn(asked)}`) : undefined;
  return change(data as never, waits, asked, { me: { id, name }, sites, sheet: sheet?.data as Count | undefined });
}
