import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { Endpoint } from '@larder/contract/endpoint';
import { endpoints } from '@larder/contract/index';
import * as exchange from '@larder/contract/exchange';
import type { Problem } from '@larder/contract/values';
import { z } from 'zod';
import { dice } from '../demo/dice';
import { openBusiness, type Business } from '../testing/business';
import { sold, stocked } from '../testing/trade';

let business: Business;
beforeAll(async () => {
  business = await openBusiness();
  for (const [sku, tracking] of [
    ['N-1', 'none'],
    ['N-2', 'none'],
  ] as const) {
    const itemId = await business.item(sku, { tracking });
    await stocked(business, itemId, '20');
    await sold(business, itemId, '4');
  }
});
afterAll(() => business.close());

/** Everything but what ends the session, is counted against the address, or goes on after its answer. */
const asked = endpoints.filter(({ path, right }) => right !== null && path !== exchange.runImport.path);

interface Answer {
  status: number;
  problem: Problem | null;
}

async function send({ method }: Endpoint, path: string, body: string | null): Promise<Answer> {
  const answer = await fetch(`${business.base}${path}`, {
    method,
    headers: { Cookie: business.owner.cookie, 'Idempotency-Key': randomUUID(), ...(method === 'GET' ? {} : { 'Content-Type': 'application/json' }) },
    body: method === 'GET' ? null : (body ?? ''),
  });
  const text = await answer.text();
  return { status: answer.status, problem: answer.ok ? null : (JSON.parse(text) as Problem) };
}

/** What is wrong with an answer: a failure of ours, or a refusal that is no sentence for a person. Null when all is well. */
function faultOf(what: string, { status, problem }: Answer): string | null {
  if (status >= 500) return `${what}: ${status}`;
  if (problem === null) return null;
  const odd = /undefined|NaN|\[object|violates|syntax error|relation "/.exec(problem.title)?.[0];
  if (odd !== undefined) return `${what}: says ${odd}`;
  return typeof problem.type === 'string' && problem.title.length > 8 && problem.status === status ? null : `${what}: no sentence`;
}

const faults: string[] = [];
const collect = (what: string, answer: Answer): void => {
  const fault = faultOf(what, answer);
  if (fault !== null) faults.push(fault);
};
const expectNone = (): void => expect(faults.splice(0)).toEqual([]);

describe('whatever comes in is answered by a sentence', () => {
  test('bodies that are none of what is asked for', async () => {
    const bodies = [
      '',
      'null',
      '[]',
      '5',
      '"text"',
      '{"a":',
      '{"lines":"no"}',
      '{"lines":[[[[{}]]]]}',
      `{"name":"${'x'.repeat(50_000)}"}`,
      '{"__proto__":{"right":true}}',
    ];
    for (const endpoint of asked.filter(({ method }) => method !== 'GET'))
      for (const body of bodies) {
        const path = endpoint.path.replace(/:\w+/g, '1');
        collect(`${endpoint.method} ${path} ${body.slice(0, 40)}`, await send(endpoint, path, body));
      }
    expectNone();
  });

  test('ids and addresses that lead nowhere', async () => {
    const ids = ['0', '-1', '2147483648', '9.5', 'abc', "1'--", '%00'];
    for (const endpoint of asked.filter(({ path }) => path.includes(':')))
      for (const id of ids) {
        const path = endpoint.path.replace(/:\w+/g, id);
        collect(`${endpoint.method} ${path}`, await send(endpoint, path, '{}'));
      }
    expectNone();
  });

  test('questions nobody would ask', async () => {
    const values = ['', ' ', '-1', '99999999999', '2026-02-30', "' OR 1=1", '%\\', '_'.repeat(200), 'ÄÖ 蜂蜜 \u202e', '\u0007'];
    for (const endpoint of asked.filter(({ method }) => method === 'GET')) {
      const { properties = {} } = z.toJSONSchema(endpoint.query, { io: 'input', unrepresentable: 'any' }) as { properties?: Record<string, unknown> };
      for (const name of Object.keys(properties))
        for (const value of values) {
          const path = `${endpoint.path.replace(/:\w+/g, '1')}?${new URLSearchParams({ [name]: value })}`;
          collect(`GET ${path}`, await send(endpoint, path, null));
        }
    }
    expectNone();
  });
});

interface Schema {
  type?: string;
  properties?: Record<string, Schema>;
  required?: string[];
  items?: Schema;
  prefixItems?: Schema[];
  anyOf?: Schema[];
  oneOf?: Schema[];
  enum?: unknown[];
  const?: unknown;
  minItems?: number;
}

/** Values of the right form and any content, so that most of them get past the form and reach what decides. */
describe.each([3, 8])('requests of the right form with any content, as the dice of %i fall', (seed) => {
  const chance = dice(seed);
  const numbers = ['1', '2', '3', '0.5', '7.25', '999999999', '0', '0.01'];
  const days = ['2026-03-10', '2026-03-12', '2026-03-09', '2019-01-01', '2099-12-31'];
  const words = ['A-1', 'N-1', 'X', 'Jars', 'EUR', 'GBP', '=1+1', 'LX-1', "it's", '蜂蜜', 'A'.repeat(60)];
  const text = (name: string): string => {
    if (/quantity|price|amount|value|point|upto|rate|part|minimum|size|copies|from|kg|cm$/i.test(name)) return chance.pick(numbers);
    return /On$|day|useBy|until$/i.test(name) ? chance.pick(days) : chance.pick(words);
  };
  const make = (schema: Schema, name: string): unknown => {
    if (schema.const !== undefined) return schema.const;
    if (schema.enum) return chance.pick(schema.enum);
    const options = schema.anyOf ?? schema.oneOf;
    if (options) return make(chance.pick(options), name);
    if (schema.prefixItems) return schema.prefixItems.map((one) => make(one, name));
    if (schema.type === 'array')
      return Array.from({ length: Math.max(schema.minItems ?? 0, chance.between(0, 2)) }, () => make(schema.items ?? {}, name.replace(/s$/, '')));
    if (schema.type === 'object') {
      const kept = Object.entries(schema.properties ?? {}).filter(([key]) => schema.required?.includes(key) || chance.roll() < 0.6);
      return Object.fromEntries(kept.map(([key, one]) => [key, make(one, key)]));
    }
    if (schema.type === 'integer' || schema.type === 'number')
      return /id$|ids?$|version/i.test(name) ? chance.between(1, 6) : chance.pick([0, 1, 2, 7, 30, 500]);
    if (schema.type === 'boolean') return chance.roll() < 0.5;
    return schema.type === 'null' ? null : text(name);
  };

  test('are done or refused, and the ledger keeps its laws', async () => {
    const outcomes = { done: 0, refused: 0 };
    for (let round = 0; round < 4; round += 1)
      for (const endpoint of asked.filter(({ method }) => method !== 'GET')) {
        const body = make(z.toJSONSchema(endpoint.body, { io: 'input', unrepresentable: 'any' }) as Schema, '');
        const path = endpoint.path.replace(/:\w+/g, () => String(chance.between(1, 6)));
        for (const preview of endpoint.posts ? ['?preview=true', ''] : ['']) {
          const answer = await send(endpoint, path + preview, JSON.stringify(body));
          collect(`${endpoint.method} ${path}${preview} ${JSON.stringify(body).slice(0, 900)}`, answer);
          outcomes[answer.problem === null ? 'done' : 'refused'] += 1;
        }
      }
    expectNone();
    expect([outcomes.done > 40, outcomes.refused > 40]).toEqual([true, true]);
    expect(await business.broken()).toEqual([]);
  });
});
