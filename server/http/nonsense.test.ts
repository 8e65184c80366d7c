import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { Endpoint } from '@larder/contract/endpoint';
import { endpoints } from '@larder/contract/index';
import * as exchange from '@larder/contract/exchange';
import * as people from '@larder/contract/people';
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
const asked = endpoints.filter(
  ({ path, right }) => right !== null && ![exchange.runImport.path, people.endSessionOf.path, people.changePassword.path].includes(path),
);

interface Answer {
  status: number;
  problem: Problem | null;
}

async function send({ method }: Endpoint, path: string, body: string | null): Promise<Answer> {
  const asked = () =>
    fetch(`${business.base}${path}`, {
      method,
      headers: { Cookie: business.owner.cookie, 'Idempotency-Key': randomUUID(), ...(method === 'GET' ? {} : { 'Content-Type': 'application/json' }) },
      body: method === 'GET' ? null : (body ?? ''),
    });
  // A connection that was kept may be closed by the server just when it is used again: the answer to that is to ask once more.
  const answer = await asked().catch((error: { cause?: { code?: string } }) => {
    if (error.cause?.code === 'ECONNRESET') return asked();
    throw error;
  });
  const text = await answer.text();
  return { status: answer.status, problem: answer.ok ? null : (JSON.parse(text) as Problem) };
}

/** What is wrong with an answer: a failure of ours, or a refusal that is no sentence for a person. Null when all is well. */
function faultOf(what: string, { status, problem }: Answer): string | null {
  if (status >= 500) return `${what}: ${status}`;
  if (problem === null) return null;
  const odd = /undefined|NaN|\[object|violates|syntax error|relation "|Invalid input|expected (string|number|array|object|int)/.exec(problem.title)?.[0];
  if (odd !== undefined) return `${what}: says ${odd}`;
  return typeof problem.type === 'string' && problem.title.length > 8 && problem.status === status ? null : `${what}: no sentence`;
}

const faults: string[] = [];
const collect = (what: string, answer: Answer): void => {
  const fault = faultOf(what, answer);
  if (fault !== null) faults.push(fault);
};
const expectNone = (): void => expect(faults.splice(0)).toEqual([]);
let sent = 0;
/** Sends all of them, eight at a time, and looks at each answer. */
async function sendAll(requests: readonly { endpoint: Endpoint; path: string; body: string | null }[]): Promise<void> {
  const left = [...requests];
  const work = async () => {
    for (let next = left.pop(); next; next = left.pop()) {
      collect(`${next.endpoint.method} ${next.path} ${(next.body ?? '').slice(0, 300)}`, await send(next.endpoint, next.path, next.body));
      sent += 1;
    }
  };
  await Promise.all(Array.from({ length: 8 }, work));
  expectNone();
}

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

const numbers = ['1', '2', '3', '0.5', '7.25', '999999999', '0', '0.01'];
const days = ['2026-03-10', '2026-03-12', '2026-03-09', '2019-01-01', '2099-12-31'];
const words = ['A-1', 'N-1', 'X', 'Jars', 'EUR', 'GBP', '=1+1', 'LX-1', "it's", '蜂蜜', 'A'.repeat(60)];

/** A value of a form, as the dice fall; `whole` leaves no field out. */
function make(schema: Schema, name: string, chance: ReturnType<typeof dice>, whole = false): unknown {
  const text = (): string => {
    if (/quantity|price|amount|value|point|upto|rate|part|minimum|size|copies|from|kg|cm$/i.test(name)) return chance.pick(numbers);
    return /On$|day|useBy|until$/i.test(name) ? chance.pick(days) : chance.pick(words);
  };
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return chance.pick(schema.enum);
  const options = schema.anyOf ?? schema.oneOf;
  if (options) return make(chance.pick(options), name, chance, whole);
  if (schema.prefixItems) return schema.prefixItems.map((one) => make(one, name, chance, whole));
  if (schema.type === 'array')
    return Array.from({ length: Math.max(schema.minItems ?? 0, whole ? 1 : chance.between(0, 2)) }, () =>
      make(schema.items ?? {}, name.replace(/s$/, ''), chance, whole),
    );
  if (schema.type === 'object') {
    const kept = Object.entries(schema.properties ?? {}).filter(([key]) => whole || schema.required?.includes(key) || chance.roll() < 0.6);
    return Object.fromEntries(kept.map(([key, one]) => [key, make(one, key, chance, whole)]));
  }
  if (schema.type === 'integer' || schema.type === 'number') return /id$|ids?$|version/i.test(name) ? chance.between(1, 6) : chance.pick([0, 1, 2, 7, 30, 500]);
  if (schema.type === 'boolean') return chance.roll() < 0.5;
  return schema.type === 'null' ? null : text();
}

describe('whatever comes in is answered by a sentence', () => {
  test('bodies that are none of what is asked for', async () => {
    const bodies = [
      '',
      'null',
      '[]',
      '5',
      '1e999',
      '"text"',
      '{"a":',
      '{"lines":"no"}',
      '{"lines":[[[[{}]]]]}',
      '['.repeat(5000),
      `{"name":"${'x'.repeat(50_000)}"}`,
      '{"__proto__":{"right":true},"constructor":{"prototype":1}}',
      '{"name":"\\ud800"}',
      `{"lines":[${Array.from({ length: 2000 }, () => '{}').join()}]}`,
    ];
    const writing = asked.filter(({ method }) => method !== 'GET');
    await sendAll(writing.flatMap((endpoint) => bodies.map((body) => ({ endpoint, path: endpoint.path.replace(/:\w+/g, '1'), body }))));
  });

  test('ids and addresses that lead nowhere', async () => {
    const ids = ['0', '-1', '2147483648', '9.5', 'abc', "1'--", '%00', '1e400', '%E0%A4%A', '..%2f..%2fetc', 'constructor', '%F0%9F%90%9D'];
    const named = asked.filter(({ path }) => path.includes(':'));
    await sendAll(named.flatMap((endpoint) => ids.map((id) => ({ endpoint, path: endpoint.path.replace(/:\w+/g, id), body: '{}' }))));
  });

  test('questions nobody would ask', async () => {
    const values = [
      ['', ' ', '-1', '99999999999', '1e400', 'NaN', '2026-02-30', '0000-01-01', '9999-12-31', 'null', 'constructor'],
      ["' OR 1=1", '%\\', '_'.repeat(200), 'x'.repeat(3000), 'ÄÖ 蜂蜜 \u202e', '\u0007', '\u0000', 'WyJcdWQ4MDAiLDFd', 'WyIxZTQwMCIsMV0', 'W10'],
    ].flat();
    let turn = 0;
    const requests = asked
      .filter(({ method }) => method === 'GET')
      .flatMap((endpoint) => {
        const { properties = {} } = z.toJSONSchema(endpoint.query, { io: 'input', unrepresentable: 'any' }) as { properties?: Record<string, unknown> };
        const path = endpoint.path.replace(/:\w+/g, '1');
        return Object.keys(properties).flatMap((name) =>
          [...values.map((value) => [value]), ['1', '1']]
            // As below: of what the question's own form refuses, every fifth.
            .filter((said) => said.length > 1 || endpoint.query.safeParse({ [name]: said[0] }).success || (turn += 1) % 5 === 0)
            .map((said) => {
              const search = new URLSearchParams(said.map((value) => [name, value]));
              return { endpoint, path: `${path}?${search}`, body: null };
            }),
        );
      });
    await sendAll(requests);
  });

  test('each field of each body in turn holding what nobody would put there', async () => {
    const odd: unknown[] = [
      [null, true, 0, -1, 1.5, 1e300, 2 ** 53, '', ' ', '-1', '1e400', '0.00001', '99999999999999999999', '0000-01-01', '2026-02-30'],
      ['\ud800', 'a\u0000b', '\u202eabc', 'x'.repeat(2500), '=1+1', "'; DROP TABLE item; --", 'constructor', [], [[]], {}, { length: 1e9 }, ['x'], [null]],
    ].flat(1);
    let turn = 0;
    const requests = asked
      .filter(({ method }) => method !== 'GET')
      .flatMap((endpoint) => {
        const whole = make(z.toJSONSchema(endpoint.body, { io: 'input', unrepresentable: 'any' }) as Schema, '', dice(5), true);
        return placesIn(whole).flatMap((place) =>
          odd
            .map((value) => withAt(whole, place, value))
            // What the form itself refuses is refused in one place: of that every twelfth. What it lets through reaches what decides: all of it.
            .filter((body) => endpoint.body.safeParse(body).success || (turn += 1) % 12 === 0)
            .map((body) => ({ endpoint, path: endpoint.path.replace(/:\w+/g, '1'), body: JSON.stringify(body) })),
        );
      });
    await sendAll(requests);
    expect(sent).toBeGreaterThan(8_000);
    expect(await business.broken()).toEqual([]);
  }, 400_000);
});

/** Where the fields of a body are, as deep as they go. */
function placesIn(value: unknown): string[][] {
  if (value === null || typeof value !== 'object') return [[]];
  return [[], ...Object.entries(value).flatMap(([name, part]) => placesIn(part).map((place) => [name, ...place]))];
}
function withAt(value: unknown, [name, ...deeper]: string[], odd: unknown): unknown {
  if (name === undefined) return odd;
  if (Array.isArray(value)) return value.map((part, at) => (String(at) === name ? withAt(part, deeper, odd) : (part as unknown)));
  return { ...(value as object), [name]: withAt((value as Record<string, unknown>)[name], deeper, odd) };
}

/** Values of the right form and any content, so that most of them get past the form and reach what decides. */
describe.each([3, 8])('requests of the right form with any content, as the dice of %i fall', (seed) => {
  const chance = dice(seed);
  test('are done or refused, and the ledger keeps its laws', async () => {
    const outcomes = { done: 0, refused: 0 };
    for (let round = 0; round < 4; round += 1)
      for (const endpoint of asked.filter(({ method }) => method !== 'GET')) {
        const body = make(z.toJSONSchema(endpoint.body, { io: 'input', unrepresentable: 'any' }) as Schema, '', chance);
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
