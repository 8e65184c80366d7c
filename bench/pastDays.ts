import { pastStock } from '@larder/contract/stock';
import type pg from 'pg';
import type { Act } from '@larder/server/act';
import { dayAsked, pastInAllFrom } from '@larder/server/areas/stock/past';
import { transaction } from '@larder/server/db/database';
import type { Figure } from './run';
import { median } from './server';

const rounds = 9;

/** Quantity and value of all items as of days, against the same over all lines from the first on. */
export async function measurePastDays(pool: pg.Pool): Promise<Figure[]> {
  const figures: Figure[] = [];
  for (const asOf of ['2025-09-17', '2026-04-30', '2026-10-29']) {
    const query = pastStock.query.parse({ asOf });
    const reckon = async (fromKept: boolean) => {
      const began = performance.now();
      const all = await transaction(pool, 'snapshot', async (tx) => {
        const act = { tx, sites: () => null, today: '2099-01-01' } as unknown as Act;
        return pastInAllFrom(act, query, fromKept ? await dayAsked(act, asOf) : { day: asOf, since: null });
      });
      return { all: JSON.stringify(all), ms: performance.now() - began };
    };
    const times: Record<'kept' | 'whole', number[]> = { kept: [], whole: [] };
    for (let round = -1; round < rounds; round += 1) {
      const [kept, whole] = [await reckon(true), await reckon(false)];
      if (kept.all !== whole.all) throw new Error(`as of ${asOf}: ${kept.all} from the end of a month, ${whole.all} from the first line`);
      if (round < 0) continue;
      times.kept.push(kept.ms);
      times.whole.push(whole.ms);
    }
    const [kept, whole] = [median(times.kept), median(times.whole)];
    figures.push({
      what: `quantity and value as of ${asOf}, all items, to all lines`,
      measured: kept / whole,
      limit: { atMost: 0.35 },
      detail: `${kept.toFixed(0)} ms to ${whole.toFixed(0)} ms`,
    });
  }
  return figures;
}
