import { randomUUID } from 'node:crypto';
import { correct, openStock } from '@larder/contract/stock';
import type pg from 'pg';
import { binsOfItems } from './posting';
import type { Figure } from './run';
import type { RunningServer } from './server';

/** Another question is asked so often, in milliseconds. */
const pace = 20;
const trail = 'when,who,what,why,document,sku,name,from,to,quantity,lot,value';

/** How long others wait while one asks for the heaviest that is allowed: each heavy thing in turn, and light questions all the while. */
export async function measureWaiting(server: RunningServer, pool: pg.Pool): Promise<Figure[]> {
  const headers = () => ({ Cookie: server.cookie, 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID() });
  const ask = (path: string, body?: unknown) =>
    fetch(`${server.base}${path}`, {
      method: body === undefined ? 'GET' : 'POST',
      headers: headers(),
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  const items = ((await (await ask('/api/catalog/items?limit=200')).json()) as { rows: { id: number }[] }).rows.map(({ id }) => id);
  const bins = await binsOfItems(pool);
  const line = (n: number) => ({ ...(bins[(n * 1009) % bins.length] as (typeof bins)[number]), quantity: '1' });
  const serial = await pool.query<{ id: number }>("SELECT id FROM item WHERE tracking = 'serial' AND retired_at IS NULL LIMIT 1");
  const run = Date.now().toString(36);
  const serials = Array.from({ length: 5000 }, (_, n) => ({ code: `${run}-${n}`, quantity: '1' }));
  const opening = { lines: [{ itemId: serial.rows[0]?.id, binId: bins[0]?.binId, quantity: String(serials.length), unitValue: '1', lots: serials }] };
  const name = ' / '.repeat(60);
  const heaviest: [what: string, answered: number, begin: () => Promise<Response>][] = [
    ['5,000 labels', 200, () => ask('/api/printing/labels', { items, copies: 25, sheet: 'a4-3x7', symbology: 'qr' })],
    ['the trail as a text file', 200, () => ask('/api/exchange/exports/trail', { fields: trail, format: 'csv' })],
    ['the trail as a workbook, until it is refused', 422, () => ask('/api/exchange/exports/trail', { fields: trail, format: 'xlsx' })],
    [
      'the dry run of 50,000 rows',
      200,
      () =>
        ask('/api/exchange/imports', {
          kind: 'items',
          fileName: 'heavy.csv',
          headings: ['SKU', 'Name'],
          fields: ['sku', 'name'],
          rows: Array.from({ length: 50_000 }, (_, n) => [`H-${n}`, n % 2 === 0 ? name : `Heavy ${n}`]),
        }),
    ],
    ['a correction of 500 lines', 200, () => ask(correct.path, { way: 'plus-or-minus', reasonId: 1, lines: Array.from({ length: 500 }, (_, n) => line(n)) })],
    ['5,000 serials at once', 200, () => ask(openStock.path, opening)],
    ['the journal', 200, () => ask('/api/books/journal/file?format=csv')],
  ];
  const figures: Figure[] = [];
  for (const [what, expected, begin] of heaviest) {
    let going = true;
    let [longest, asked] = [0, 0];
    const others = (async () => {
      while (going) {
        const began = performance.now();
        await (await ask('/api/people/me')).arrayBuffer();
        longest = Math.max(longest, performance.now() - began);
        asked += 1;
        await new Promise((later) => setTimeout(later, pace));
      }
    })();
    await server.held();
    const began = performance.now();
    const answer = await begin();
    if (answer.status !== expected) throw new Error(`${what}: answered ${answer.status}: ${await answer.text()}`);
    const reader = answer.body?.getReader();
    for (let part = await reader?.read(); part && !part.done; part = await reader?.read());
    const seconds = (performance.now() - began) / 1000;
    going = false;
    await others;
    figures.push({
      what: `longest the event loop is held during ${what}, ms`,
      measured: await server.held(),
      limit: { atMost: 200 },
      detail: 'told by the server itself',
    });
    figures.push({
      what: `longest another waits during ${what}, ms`,
      measured: longest,
      limit: { atMost: 1000 },
      detail: `${asked} asked in the ${seconds.toFixed(1)} s it took, answered ${answer.status}`,
    });
  }
  return figures;
}
