import { connect } from '../server/db/database';
import { migrate } from '../server/db/migrate';
import { foundFor } from './scaleSet';
import { checkImport, getImport, runImport } from '@larder/contract/exchange';
import type { Figure } from './run';
import { startServer } from './server';

const many = 20_000;

/** Into an empty business of its own: 20,000 new items with barcode, prices and category: from the rows sent to the last one written. */
export async function measureImport(url: string): Promise<Figure[]> {
  const pool = connect(url, { max: 2, patient: true });
  await migrate(pool);
  await foundFor(pool, 'Brought in');
  await pool.end();
  const server = await startServer(url, { args: ['--empty'] });
  const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
    const answer = await fetch(`${server.base}${path}`, {
      method,
      headers: { Cookie: server.cookie, 'Content-Type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    if (!answer.ok) throw new Error(await answer.text());
    return (await answer.json()) as T;
  };
  const fields = ['sku', 'name', 'category', 'barcode', 'salesPrice', 'purchasePrice', 'notes'];
  const run = Date.now().toString(36);
  const rows = Array.from({ length: many }, (_, n) => [
    `BR-${run}-${n}`,
    `Brought in ${n}`,
    `Category ${n % 40}`,
    `${run}${n}X`,
    '2.50',
    '1.25',
    'from a file',
  ]);
  const began = performance.now();
  const { id } = await ask<{ id: number }>('POST', checkImport.path, { kind: 'items', fileName: 'bench.csv', headings: fields, fields, rows });
  const checked = performance.now();
  await ask('POST', runImport.path.replace(':id', String(id)), {});
  let state = 'running';
  while (state === 'running') {
    await new Promise((later) => setTimeout(later, 200));
    ({
      import: { state },
    } = await ask<{ import: { state: string } }>('GET', `${getImport.path.replace(':id', String(id))}?limit=1`));
  }
  if (state !== 'done') throw new Error(`the import ended as ${state}`);
  const seconds = (performance.now() - began) / 1000;
  await server.stop();
  return [
    {
      what: `bringing in ${many} items, seconds`,
      measured: seconds,
      limit: { atMost: 60 },
      detail: `of which the dry run ${((checked - began) / 1000).toFixed(1)}`,
    },
  ];
}
