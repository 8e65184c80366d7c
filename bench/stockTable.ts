import { stockTable as endpoint } from '@larder/contract/stock';
import type pg from 'pg';
import type { Act } from '@larder/server/act';
import { stockTable } from '@larder/server/areas/stock/queries';
import { transaction } from '@larder/server/db/database';
import type { Figure } from './run';
import { median, type RunningServer } from './server';

const rounds = 60;
const stored = [
  'sort=sku',
  'sort=name',
  'sort=onHand&direction=down',
  'sort=free',
  'sort=reserved',
  'sort=onOrder&direction=down',
  'sort=unitCost&direction=down',
  'sort=value&direction=down',
  'siteId=2&sort=onHand',
  'siteId=2&sort=free&direction=down',
];
const rest = [
  'q=copper+jar',
  'q=it-00123',
  'categoryId=7&sort=value&direction=down',
  'supplierId=9',
  'state=low',
  'state=out',
  'siteId=3&sort=value&direction=down',
  'sort=short&direction=down',
  'sort=quarantine&direction=down',
  'sort=countedOn',
  'fromSku=it-01&toSku=it-02',
];

/** An answer for which nothing is read: what the way there and back takes, with the session looked up. */
const nothing = '/api/work/00000000-0000-7000-8000-000000000000/progress';

/**
 * The first page of the stock table against a read by primary key through the same route stack, and against its bare SQL.
 * The shortest of these answer sooner than anything can be asked over HTTP; what an answer of nothing takes is not the list's, and is taken off.
 */
export async function measureStockTable(server: RunningServer, pool: pg.Pool): Promise<Figure[]> {
  const get = async (path: string) => {
    const began = performance.now();
    const answer = await fetch(`${server.base}${path}`, { headers: { Cookie: server.cookie } });
    await answer.arrayBuffer();
    if (!answer.ok) throw new Error(`${path} answered ${answer.status}`);
    return performance.now() - began;
  };
  const bare = async (search: string) => {
    const query = endpoint.query.parse(Object.fromEntries(new URLSearchParams(search)));
    const began = performance.now();
    await transaction(pool, 'snapshot', (tx) => stockTable({ tx, sites: () => null, seesCosts: true, today: '2026-11-11' } as unknown as Act, query));
    return performance.now() - began;
  };
  const times = async (measure: () => Promise<number>) => {
    for (let warm = 0; warm < 8; warm += 1) await measure();
    const all: number[] = [];
    for (let round = 0; round < rounds; round += 1) all.push(await measure());
    return median(all);
  };
  /** The same of several things, one after the other in each round, so that what else the machine does falls on all of them. */
  const alternating = async <T extends readonly (() => Promise<number>)[]>(measures: T): Promise<{ [K in keyof T]: number }> => {
    const all = measures.map((): number[] => []);
    for (let round = -8; round < rounds; round += 1)
      for (const [at, measure] of measures.entries()) {
        const ms = await measure();
        if (round >= 0) all[at]?.push(ms);
      }
    return all.map(median) as { [K in keyof T]: number };
  };
  const byKey = await times(() => get('/api/catalog/items/777'));
  const figures: Figure[] = [];
  for (const search of stored) {
    const ms = await times(() => get(`${endpoint.path}?${search}`));
    figures.push({
      what: `stock table, ${search}, to a read by key`,
      measured: ms / byKey,
      limit: { atMost: 5 },
      detail: `${ms.toFixed(1)} ms to ${byKey.toFixed(1)} ms`,
    });
  }
  for (const search of rest) {
    const [ms, sql, empty] = await alternating([() => get(`${endpoint.path}?${search}`), () => bare(search), () => get(nothing)] as const);
    figures.push({
      what: `stock table, ${search}, to its bare SQL`,
      measured: (ms - empty) / sql,
      limit: { atMost: 1.5 },
      detail: `${ms.toFixed(1)} ms, of which ${empty.toFixed(1)} ms are the way, to ${sql.toFixed(1)} ms`,
    });
  }
  return figures;
}
