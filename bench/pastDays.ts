import { pastStock } from '@larder/contract/stock';
import type pg from 'pg';
import type { Act } from '@larder/server/act';
import { dayAsked, pastInAllFrom } from '@larder/server/areas/stock/past';
import { transaction } from '@larder/server/db/database';
import type { Figure } from './run';
import { median } from './server';

const rounds = 7;
/** A day after the last line of the scale set. */
const lastDay = '2026-12-31';

/** Quantity and value of all items as of days, against the same over all lines there are, which are as many as up to the last day. */
export async function measurePastDays(pool: pg.Pool): Promise<Figure[]> {
  const figures: Figure[] = [];
  const reckon = async (asOf: string, fromKept: boolean) => {
    const query = pastStock.query.parse({ asOf });
    const began = performance.now();
    const all = await transaction(pool, 'snapshot', async (tx) => {
      const act = { tx, sites: () => null, today: '2099-01-01' } as unknown as Act;
      return pastInAllFrom(act, query, fromKept ? await dayAsked(act, asOf) : { day: asOf, since: null });
    });
    return { all: JSON.stringify(all), ms: performance.now() - began };
  };
  for (const asOf of ['2025-09-17', '2026-04-30', '2026-10-29']) {
    const [kept, lines] = [await reckon(asOf, true), await reckon(asOf, false)];
    if (kept.all !== lines.all) throw new Error(`as of ${asOf}: ${kept.all} from the end of a month, ${lines.all} from the first line`);
    const times: Record<'kept' | 'whole', number[]> = { kept: [], whole: [] };
    for (let round = 0; round < rounds; round += 1) {
      times.kept.push((await reckon(asOf, true)).ms);
      times.whole.push((await reckon(lastDay, false)).ms);
    }
    const [ms, whole] = [median(times.kept), median(times.whole)];
    figures.push({
      what: `quantity and value as of ${asOf}, all items, to those of all lines`,
      measured: ms / whole,
      limit: { atMost: 0.35 },
      detail: `${ms.toFixed(0)} ms to ${whole.toFixed(0)} ms`,
    });
  }
  return figures;
}
