import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as catalog from '@larder/contract/catalog';
import * as counts from '@larder/contract/counts';
import type { Asked, Endpoint, ResponseOf } from '@larder/contract/endpoint';
import * as loans from '@larder/contract/loans';
import * as making from '@larder/contract/making';
import * as people from '@larder/contract/people';
import * as receiving from '@larder/contract/receiving';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import * as workOrders from '@larder/contract/workOrders';
import * as records from '@larder/contract/workRecords';
import { Caller } from './testing/business';

/** The product as it is started by anybody, killed in every way a machine kills: the next plain start works, and nothing acknowledged is lost or doubled. */
let folder: string;
let port: number;
let started: { child: ChildProcess; said: () => string };
const base = () => `http://127.0.0.1:${port}`;
const pause = (ms: number) => new Promise((later) => setTimeout(later, ms));

/** As on a machine on which nothing was set. */
function plainEnvironment(): NodeJS.ProcessEnv {
  const { DATABASE_URL: _url, DATABASE_OWNER_URL: _owner, ...env } = process.env;
  return { ...env, NODE_OPTIONS: '' };
}

async function start(): Promise<void> {
  const child = spawn(process.execPath, ['scripts/start.mjs', '--empty'], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...plainEnvironment(), LARDER_DATA: folder, PORT: String(port), LOG_LEVEL: 'silent' },
  });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (bytes: Buffer) => (said += bytes.toString()));
  started = { child, said: () => said };
  for (let tries = 0; tries < 600; tries += 1) {
    if (/Tidy Larder is at .*\n/.test(said)) return;
    if (child.exitCode !== null) break;
    await pause(100);
  }
  throw new Error(`the start did not work: ${said}`);
}

/** Pids of what runs below a process. */
function below(pid: number): number[] {
  const children = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((name) => {
      try {
        return readFileSync(`/proc/${name}/stat`, 'utf8').split(') ')[1]?.split(' ')[1] === String(pid);
      } catch {
        return false; // gone in between
      }
    })
    .map(Number);
  return children.flatMap((child) => [child, ...below(child)]);
}
const kill = (pid: number, signal: NodeJS.Signals) => {
  try {
    process.kill(pid, signal);
  } catch {
    // gone already, which is what was wanted
  }
};
const commandOf = (pid: number) => (existsSync(`/proc/${pid}/cmdline`) ? readFileSync(`/proc/${pid}/cmdline`, 'utf8') : '');
const serverPid = () => below(started.child.pid as number).find((pid) => commandOf(pid).includes('server/dist/main.js')) as number;
function pidFile(): string {
  return join(folder, 'postgres/cluster/postmaster.pid');
}
const postmaster = () => Number(readFileSync(pidFile(), 'utf8').split('\n')[0]);

async function ended(): Promise<void> {
  if (started.child.exitCode === null && started.child.signalCode === null) await once(started.child, 'exit');
}
async function stop(): Promise<void> {
  started.child.kill('SIGTERM');
  await ended();
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'larder-kill-'));
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  port = (probe.address() as AddressInfo).port;
  probe.close();
});
afterAll(async () => {
  await stop();
  await rm(folder, { recursive: true, force: true });
});

test('killed again and again while people post, it starts again each time, and each acknowledged posting is there once', async () => {
  await start();
  const token = /begin#([\w-]+)/.exec(started.said())?.[1];
  const answer = await fetch(`${base()}${people.begin.path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ token, business: 'Hard Times', name: 'Ada Finch', email: 'ada@finch.example', password: 'seven kettles sing at dawn' }),
  });
  expect(answer.status).toBe(200);
  const ada = new Caller(
    base(),
    answer.headers
      .getSetCookie()
      .map((one) => one.split(';')[0])
      .join('; '),
  );
  const { id: siteId } = await ada.get(setup.createSite, { body: { code: 'BARN', name: 'Barn store' } });
  const { rows: bins } = await ada.get(setup.createBins, { body: { siteId, codes: ['A-1', 'A-2'] } });
  const { units, reasons } = await ada.get(setup.reference, {});
  const { id: itemId } = await ada.get(catalog.createItem, { body: { sku: 'ROCK', name: 'Rock', unitId: units[0]?.id as number, purchasePrice: '1.00' } });

  const { id: otherSiteId } = await ada.get(setup.createSite, { body: { code: 'SHOP', name: 'Shop' } });
  const otherBin = (await ada.get(setup.createBins, { body: { siteId: otherSiteId, codes: ['S-1'] } })).rows[0]?.id as number;
  const { id: holderId } = await ada.get(loans.createHolder, { body: { name: 'Ridge', sort: 'place' } });
  const unitId = units[0]?.id as number;
  const [carried, counted] = [
    (await ada.get(catalog.createItem, { body: { sku: 'CARRY', name: 'Carried', unitId, purchasePrice: '1.00' } })).id,
    (await ada.get(catalog.createItem, { body: { sku: 'COUNT', name: 'Counted', unitId, purchasePrice: '1.00' } })).id,
  ];
  const made = (await ada.get(catalog.createItem, { body: { sku: 'MADE', name: 'Made', unitId } })).id;
  await ada.get(making.createBom, { body: { itemId: made, startsOn: '2026-01-01', parts: [{ itemId: carried, quantity: '2' }] } });
  const there = (id: number, binId: number, quantity: string) => ({ itemId: id, binId, quantity, unitValue: '1.00', lots: [] });
  await ada.get(stock.openStock, { body: { lines: [there(carried, bins[0]?.id as number, '5000'), there(counted, otherBin, '10')] } });
  const { today } = (await ada.get(people.me, {})).company;
  const everything = { zone: '', binIds: [], categoryId: null, classes: [], notSince: null, differedSince: null, doubted: false, due: false };

  const acknowledged = new Set<number>();
  let working = true;
  const work = async () => {
    let key = randomUUID();
    /** The last was sent and not answered: whether it was done is known only once it is sent again. */
    let unanswered = false;
    while (working || unanswered) {
      const body = { way: 'plus-or-minus' as const, reasonId: reasons[0]?.id as number, lines: [{ itemId, binId: bins[0]?.id as number, quantity: '1' }] };
      const sent = await ada.ask(stock.correct, { body }, { key }).catch(() => null);
      unanswered = sent === null || sent.status >= 500;
      if (sent === null || sent.status >= 500) {
        await pause(80);
        continue; // the answer never came: the same again
      }
      expect([sent.status, sent.problem]).toEqual([200, sent.problem]);
      acknowledged.add(sent.data.movementId as number);
      key = randomUUID();
    }
  };
  /** Asks until it is answered, each time under the same key: what was done is not done twice. */
  const surely = async <E extends Endpoint>(endpoint: E, asked: Asked<E>): Promise<ResponseOf<E>> => {
    const key = randomUUID();
    for (;;) {
      const sent = await ada.ask(endpoint, asked, { key }).catch(() => null);
      if (sent && sent.status < 500) {
        expect([endpoint.path, sent.status, sent.problem]).toEqual([endpoint.path, 200, sent.problem]);
        return sent.data;
      }
      await pause(80);
    }
  };
  const done = { sent: 0, counted: 0, lent: 0, made: 0 };
  /** Sends some to the other site and receives them there, in two steps. */
  const transferring = async () => {
    while (working) {
      const lines = [{ itemId: carried, quantity: '1' }];
      const made = await surely(transfers.createTransfer, { body: { fromSiteId: siteId, toSiteId: otherSiteId, sendBy: today, lines } });
      const id = made.id as number;
      const lineId = (await surely(transfers.getTransfer, { params: { id } })).lines[0]?.id as number;
      await surely(transfers.sendTransfer, { params: { id }, body: { lines: [{ lineId, binId: bins[0]?.id as number, quantity: '1' }] } });
      await surely(receiving.receive, { body: { lines: [{ lineId, quantity: '1', binId: otherBin }] } });
      done.sent += 1;
    }
  };
  /** Lends one, and takes it back. */
  const lending = async () => {
    while (working) {
      const lent = await surely(loans.lend, { body: { holderId, lines: [{ itemId: carried, binId: bins[0]?.id as number, quantity: '1' }] } });
      const line = (await surely(loans.getLoan, { params: { id: lent.id as number } })).lineRows[0];
      await surely(loans.bringBack, { body: { lines: [{ lineId: line?.id as number, quantity: '1', binId: bins[0]?.id as number }] } });
      done.lent += 1;
    }
  };
  /** Makes one of two: planned, taken and recorded, in three steps. */
  const producing = async () => {
    while (working) {
      const body = { itemId: made, siteId, quantity: '1', startsOn: today, dueOn: today, release: true };
      const id = (await surely(workOrders.createWorkOrder, { body })).id as number;
      const params = { id };
      const { lines } = await surely(workOrders.getWorkOrder, { params });
      const lineId = lines[0]?.id as number;
      await surely(workOrders.pickWorkOrder, { params, body: { lines: [{ lineId, binId: bins[0]?.id as number, quantity: '2' }] } });
      const { version, products } = await surely(workOrders.getWorkOrder, { params });
      const recorded = { used: [{ lineId, quantity: '2' }], made: [{ lineId: products[0]?.id as number, quantity: '1', binId: bins[1]?.id as number }] };
      await surely(records.recordWork, { params, body: { version, ...recorded, otherCost: true } });
      done.made += 1;
    }
  };
  /** Counts a bin in which one is missing, or one too many, turn by turn: each count is posted once. */
  const counting = async () => {
    for (let is = 9; working; is = is === 9 ? 10 : 9) {
      const sheet = await surely(counts.createCount, { body: { siteId: otherSiteId, plan: { ...everything, itemIds: [counted] } } });
      const at = { id: sheet.id, placeId: otherBin };
      await surely(counts.enterCount, { params: at, body: { entries: [{ itemId: counted, quantity: String(is), way: 'typed' }] } });
      await surely(counts.finishBin, { params: at, body: {} });
      const posted = await surely(counts.postCount, { params: { id: at.id }, body: { reasonId: reasons[0]?.id as number } });
      expect(posted).toMatchObject({ posted: 1, agreed: 0 });
      done.counted += 1;
    }
  };
  const workers = [...Array.from({ length: 3 }, work), transferring(), lending(), counting(), producing()];

  const ways: [string, () => Promise<void>][] = [
    ['the server', async () => (kill(serverPid(), 'SIGKILL'), await ended(), await start())],
    ['a connection of the database, which then restarts by itself', async () => void kill(below(postmaster()).at(-1) as number, 'SIGKILL')],
    ['the database', async () => (kill(postmaster(), 'SIGKILL'), await pause(300), await stop(), await start())],
    [
      'everything at once',
      async () => {
        const all = [started.child.pid as number, serverPid(), postmaster()];
        all.forEach((pid) => kill(pid, 'SIGKILL'));
        await ended();
        await start();
      },
    ],
    [
      'the database, and the start again while it recovers',
      async () => {
        kill(postmaster(), 'SIGKILL');
        await stop();
        const early = start().catch(() => undefined);
        await pause(900);
        started.child.kill('SIGTERM');
        await Promise.all([early, ended()]);
        await start();
      },
    ],
    [
      'everything, and its pid is somebody else’s now',
      async () => {
        const [at, all] = [pidFile(), [started.child.pid as number, serverPid(), postmaster()]];
        all.forEach((pid) => kill(pid, 'SIGKILL'));
        await ended();
        const [, ...others] = readFileSync(at, 'utf8').split('\n');
        writeFileSync(at, [String(process.pid), ...others].join('\n'));
        await start();
      },
    ],
    [
      'only the start script, so that server and database are left to themselves',
      async () => {
        kill(started.child.pid as number, 'SIGKILL');
        await ended();
        await start();
      },
    ],
  ];
  /** Waits while they are at it until so many more were acknowledged, and everything else was done so often. */
  const atWork = async (often: number) => {
    for (const enough = acknowledged.size + 8; acknowledged.size < enough || Math.min(...Object.values(done)) < often; await pause(50))
      if (started.child.exitCode !== null) throw new Error(`it ended by itself: ${started.said()}`);
  };
  for (const [, way] of ways) {
    await pause(1000);
    await atWork(0);
    await way();
  }
  await atWork(4);
  working = false;
  await Promise.all(workers);

  const { sites } = await ada.get(stock.itemStock, { params: { id: itemId } });
  expect(Number(sites.find((site) => site.siteId === siteId)?.onHand)).toBe(acknowledged.size);
  const lying = async (id: number) =>
    (await ada.get(stock.itemStock, { params: { id } })).sites.flatMap((one) => one.bins.map(({ bin, quantity }) => [bin, Number(quantity)]));
  expect(await lying(carried)).toEqual([
    ['A-1', 5000 - done.sent - 2 * done.made],
    ['S-1', done.sent],
  ]);
  expect(await lying(made)).toEqual([['A-2', done.made]]);
  expect(await lying(counted)).toEqual([['S-1', done.counted % 2 === 1 ? 9 : 10]]);
  const left = [serverPid(), postmaster()];
  await stop();
  expect(started.child.exitCode).toBe(0);
  expect(left.map(commandOf)).toEqual(['', '']); // what has ended has no command any more, even while nobody has asked how it ended
  await start();
  const audit = spawn(process.execPath, ['scripts/verify.mjs', '--empty'], { env: { ...plainEnvironment(), LARDER_DATA: folder }, stdio: 'ignore' });
  expect(await once(audit, 'exit')).toEqual([0, null]);
}, 240_000);
