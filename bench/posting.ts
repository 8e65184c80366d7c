import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { correct } from '@larder/contract/stock';
import type pg from 'pg';
import type { Figure } from './run';
import { median, type RunningServer } from './server';

const pairs = 9;
const seconds = 4;
const clients = 8;

/** Posting a 5-line movement through HTTP, 8 at once, against pgbench running the same statements on the same server: medians of alternating pairs. */
export async function measurePosting(server: RunningServer, pool: pg.Pool, url: string): Promise<Figure[]> {
  const bins = await binsOfItems(pool);
  const http: number[] = [];
  const bare: number[] = [];
  await throughHttp(server, bins, 2);
  for (let pair = 0; pair < pairs; pair += 1) {
    http.push(await throughHttp(server, bins, seconds));
    bare.push(await throughPgbench(url));
  }
  const ratios = http.map((rate, index) => rate / (bare[index] as number));
  return [
    {
      what: 'postings of 5 lines through HTTP, to pgbench',
      measured: median(ratios),
      limit: { atLeast: 0.4 },
      detail: `${median(http).toFixed(0)} to ${median(bare).toFixed(0)} a second, medians of ${pairs} pairs`,
    },
  ];
}

/** Items without lots or serials, each with its bin at the first site. */
export async function binsOfItems(pool: pg.Pool): Promise<{ itemId: number; binId: number }[]> {
  const { rows } = await pool.query<{ itemId: number; binId: number }>(
    `SELECT i.id AS "itemId", b.place_id AS "binId" FROM item i JOIN balance b ON b.item_id = i.id JOIN place p ON p.id = b.place_id WHERE i.tracking = 'none' AND p.kind = 'bin' AND p.site_id = 1`,
  );
  return rows;
}

async function throughHttp(server: RunningServer, bins: readonly { itemId: number; binId: number }[], forSeconds: number): Promise<number> {
  const end = performance.now() + forSeconds * 1000;
  let done = 0;
  const client = async () => {
    while (performance.now() < end) {
      const start = Math.floor(Math.random() * bins.length);
      const lines = [0, 1, 2, 3, 4].map((n) => ({ ...(bins[(start + n * 1009) % bins.length] as (typeof bins)[number]), quantity: '1' }));
      const answer = await fetch(`${server.base}${correct.path}`, {
        method: 'POST',
        headers: { Cookie: server.cookie, 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID() },
        body: JSON.stringify({ way: 'plus-or-minus', reasonId: 1, lines }),
      });
      if (!answer.ok) throw new Error(await answer.text());
      await answer.arrayBuffer();
      done += 1;
    }
  };
  await Promise.all(Array.from({ length: clients }, client));
  return done / forSeconds;
}

async function throughPgbench(url: string): Promise<number> {
  const args = ['-n', '-M', 'prepared', '-c', String(clients), '-j', '2', '-T', String(seconds), '-f', join(import.meta.dirname, 'posting.sql'), url];
  const { stdout } = await promisify(execFile)(process.env.PGBENCH ?? 'pgbench', args);
  const rate = /tps = ([\d.]+)/.exec(stdout)?.[1];
  if (rate === undefined) throw new Error(stdout);
  return Number(rate);
}
