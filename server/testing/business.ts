import { randomUUID } from 'node:crypto';
import type { Asked, Endpoint, ResponseOf } from '@larder/contract/endpoint';
import type { Problem } from '@larder/contract/values';
import * as catalog from '@larder/contract/catalog';
import * as people from '@larder/contract/people';
import * as setup from '@larder/contract/setup';
import type pg from 'pg';
import { pino } from 'pino';
import { createApp } from '../app';
import { connect, transaction } from '../db/database';
import { addPerson, found } from '../db/found';
import { listen } from '../http/listen';
import { verify } from '../ledger/verify';
import { freshDatabase } from './database';

const password = 'only for tests';
const firstDay = '2026-03-10T10:00:00Z';

interface Sent<T> {
  status: number;
  data: T;
  problem: Problem;
}

/** Speaks to a server over HTTP as one signed-in person. */
export class Caller {
  constructor(
    readonly base: string,
    readonly cookie: string,
  ) {}

  async ask<E extends Endpoint>(endpoint: E, asked: Asked<E> = {}, how: { key?: string; preview?: boolean } = {}): Promise<Sent<ResponseOf<E>>> {
    const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) => String((asked.params as Record<string, unknown>)[name]));
    const search = new URLSearchParams(
      Object.entries((asked.query ?? {}) as Record<string, unknown>).flatMap(([name, value]) => (value === undefined ? [] : [[name, String(value)]])),
    );
    if (how.preview) search.set('preview', 'true');
    const headers = {
      Cookie: this.cookie,
      'Idempotency-Key': how.key ?? randomUUID(),
      ...(endpoint.method === 'GET' ? {} : { 'Content-Type': 'application/json' }),
    };
    const answer = await fetch(`${this.base}${path}?${search}`, {
      method: endpoint.method,
      headers,
      body: endpoint.method === 'GET' ? null : JSON.stringify(asked.body ?? {}),
    });
    const isJson = answer.headers.get('Content-Type')?.includes('json') ?? false;
    const content = (isJson ? await answer.json() : await answer.text()) as never;
    return { status: answer.status, data: content, problem: content };
  }

  /** Asks for what must succeed. */
  async get<E extends Endpoint>(endpoint: E, asked: Asked<E> = {}): Promise<ResponseOf<E>> {
    const { status, data, problem } = await this.ask(endpoint, asked);
    if (status !== 200) throw new Error(`${endpoint.method} ${endpoint.path}: ${problem.title}`);
    return data;
  }
}

export async function signIn(base: string, email: string, secret = password): Promise<Caller> {
  const answer = await fetch(`${base}${people.signIn.path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email, password: secret }),
  });
  if (!answer.ok) throw new Error(`sign-in: ${await answer.text()}`);
  return new Caller(base, (answer.headers.getSetCookie()[0] ?? '').split(';')[0] ?? '');
}

export interface Business {
  /** The database as its owner sees it, and as the server does. */
  url: string;
  servingUrl: string;
  base: string;
  /** Connections of the owner, beside the server's own. */
  pool: pg.Pool;
  owner: Caller;
  as: (role: string) => Promise<Caller>;
  clock: { now: Date };
  siteId: number;
  otherSiteId: number;
  bins: number[];
  supplierId: number;
  customerId: number;
  item: (sku: string, part?: Partial<Asked<typeof catalog.createItem>['body']>) => Promise<number>;
  reasonId: number;
  /** The laws that are broken, which should be none. */
  broken: () => Promise<string[]>;
  close: () => Promise<void>;
}

/** A small business on a database and a server of its own: two sites, three bins, a supplier and a customer. */
export async function openBusiness(now = new Date(firstDay)): Promise<Business> {
  const { url, servingUrl, drop } = await freshDatabase();
  const pool = connect(url, { max: 12, name: 'test', patient: true });
  const serving = connect(servingUrl, { max: 12, name: 'test server', patient: true });
  const health = connect(servingUrl, { max: 1, name: 'test health', keep: true, patient: true });
  await health.query('SELECT 1');
  const clock = { now };
  await transaction(pool, 'write', async (tx) => {
    await found(tx, { name: 'Test business' }, { name: 'Owner', email: 'owner@test.example', password });
    for (const role of ['Stock controller', 'Sales desk', 'Floor', 'Onlooker'])
      await addPerson(tx, { name: role, email: `${role.toLowerCase().replace(' ', '-')}@test.example`, password }, role);
  });
  const { app } = createApp({ pool: serving, health, clock: () => clock.now }, pino({ level: 'error' }));
  const listening = await listen(app, 0, '127.0.0.1');
  const base = `http://127.0.0.1:${listening.port}`;
  const owner = await signIn(base, 'owner@test.example');
  const { id: siteId } = await owner.get(setup.createSite, { body: { code: 'BARN', name: 'Barn store' } });
  const { id: otherSiteId } = await owner.get(setup.createSite, { body: { code: 'HARB', name: 'Harbour shop' } });
  const { rows: bins } = await owner.get(setup.createBins, { body: { siteId, codes: ['A-1', 'A-2', 'B-1'] } });
  const { id: supplierId } = await owner.get(setup.createParty, { body: { name: 'Hexley Joinery', isSupplier: true } });
  const { id: customerId } = await owner.get(setup.createParty, { body: { name: 'Copse Lane School', isCustomer: true } });
  const reference = await owner.get(setup.reference);
  return {
    url,
    base,
    pool,
    owner,
    servingUrl,
    clock,
    siteId,
    otherSiteId,
    supplierId,
    customerId,
    as: (role) => signIn(base, `${role.toLowerCase().replace(' ', '-')}@test.example`),
    bins: bins.map(({ id }) => id),
    reasonId: reference.reasons[0]?.id ?? 0,
    item: async (sku, part = {}) =>
      (
        await owner.get(catalog.createItem, {
          body: {
            sku,
            name: `Item ${sku}`,
            unitId: reference.units[0]?.id ?? 0,
            purchasePrice: '2.00',
            salesPrice: '5.00',
            taxCodeId: reference.taxes[0]?.id ?? null,
            ...part,
          },
        })
      ).id,
    broken: async () => (await verify(pool)).filter((law) => law.broken.length > 0).map(({ name }) => name),
    close: async () => {
      await listening.stop(2000);
      await pool.end();
      await Promise.all([serving.end(), health.end()]);
      await drop();
    },
  };
}
