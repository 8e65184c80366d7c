import { measureFirstLoad } from './firstLoad';
import { measureImport } from './importing';
import { measureLive } from './live';
import { measureMaking } from './making';
import { measurePastDays } from './pastDays';
import { measurePlanning } from './planning';
import { measurePosting } from './posting';
import { measureScanning } from './scanning';
import { measureScrolling } from './scrolling';
import { measureSearch } from './searching';
import { measureTyping } from './typing';
import { measureSelling } from './selling';
import { makeScaleSet } from './scaleSet';
import { startServer } from './server';
import { measureStockTable } from './stockTable';
import { measureWaiting } from './waiting';
import { measureWork } from './work';

/** One measured figure against its limit. */
export interface Figure {
  what: string;
  measured: number;
  limit: { atLeast: number } | { atMost: number };
  detail: string;
}

const url = process.env.DATABASE_URL ?? '';
const pool = await makeScaleSet(url, console.log);
const server = await startServer(url);
const measures: Record<string, () => Promise<Figure[]>> = {
  stock: () => measureStockTable(server, pool),
  past: () => measurePastDays(pool),
  live: () => measureLive(server),
  making: () => measureMaking(server, pool),
  work: () => measureWork(server, pool),
  planning: () => measurePlanning(server, pool),
  search: () => measureSearch(server),
  scrolling: () => measureScrolling(server),
  'first-load': () => measureFirstLoad(server),
  typing: () => measureTyping(server),
  scanning: () => measureScanning(server),
  selling: () => measureSelling(server),
  posting: () => measurePosting(server, pool, url),
  waiting: () => measureWaiting(server, pool),
  importing: () => measureImport(process.env.IMPORT_URL ?? ''),
};
const chosen = process.argv.slice(2).filter((name) => name in measures);
for (const [name, measure] of Object.entries(measures)) if (chosen.length === 0 || chosen.includes(name)) (await measure()).forEach(say);
await server.stop();
await pool.end();

function say({ what, measured, limit, detail }: Figure): void {
  const holds = 'atLeast' in limit ? measured >= limit.atLeast : measured <= limit.atMost;
  console.log(
    `${holds ? 'within' : 'MISSED'}  ${what}: ${measured.toFixed(2)} (${'atLeast' in limit ? `at least ${limit.atLeast}` : `at most ${limit.atMost}`})  ${detail}`,
  );
}
