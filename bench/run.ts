import { measureImport } from './importing';
import { measurePosting } from './posting';
import { measureScanning } from './scanning';
import { measureSearch } from './searching';
import { makeScaleSet } from './scaleSet';
import { startServer } from './server';
import { measureStockTable } from './stockTable';

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
const measures = [
  () => measureStockTable(server, pool),
  () => measureSearch(server),
  () => measureScanning(server),
  () => measurePosting(server, pool, url),
  () => measureImport(process.env.IMPORT_URL ?? ''),
];
for (const measure of measures) (await measure()).forEach(say);
await server.stop();
await pool.end();

function say({ what, measured, limit, detail }: Figure): void {
  const holds = 'atLeast' in limit ? measured >= limit.atLeast : measured <= limit.atMost;
  console.log(
    `${holds ? 'within' : 'MISSED'}  ${what}: ${measured.toFixed(2)} (${'atLeast' in limit ? `at least ${limit.atLeast}` : `at most ${limit.atMost}`})  ${detail}`,
  );
}
