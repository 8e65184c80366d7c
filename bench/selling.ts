import { salesShows } from '@larder/contract/outbound';
import { randomUUID } from 'node:crypto';
import type { Figure } from './run';
import { asker, median, type RunningServer } from './server';

const [lineCount, orderCount, tries] = [200, 40, 5];

interface Quote {
  id: number;
  version: number;
  lines: { id: number }[];
}

/** Selling on the scale set: an order of 200 lines confirmed, a round over 40 orders begun and shown in walking order, and the list of orders at each of its stages. Each the median of several times. */
export async function measureSelling(server: RunningServer): Promise<Figure[]> {
  const ask = asker(server);
  const { rows } = await ask<{ rows: { id: number; tracking: string }[] }>('GET', '/api/catalog/items?state=in-stock&limit=200');
  const { rows: more } = await ask<{ rows: { id: number; tracking: string }[] }>('GET', '/api/catalog/items?state=in-stock&q=frame&limit=200');
  const items = [...new Map([...rows, ...more].filter(({ tracking }) => tracking === 'none').map((one) => [one.id, one])).values()];
  const customers = await ask<{ rows: { id: number }[] }>('GET', '/api/setup/parties?as=customer');
  const customerId = customers.rows[0]?.id;
  const quote = (count: number) =>
    ask<Quote>('POST', '/api/outbound/orders', {
      customerId,
      siteId: 1,
      shipBy: '2027-06-01',
      reference: randomUUID(),
      lines: Array.from({ length: count }, (_, n) => ({ itemId: items[n % items.length]?.id, quantity: '1', price: '2.00' })),
    });
  const end = async ({ id }: Quote) => {
    const { version } = await ask<Quote>('GET', `/api/outbound/orders/${id}`);
    await ask('POST', `/api/outbound/orders/${id}/end`, { decision: 'cancel', version });
  };
  const timed = async (work: () => Promise<unknown>): Promise<number> => {
    const began = performance.now();
    await work();
    return performance.now() - began;
  };
  const confirm = ({ id, version }: Quote) => ask('POST', `/api/outbound/orders/${id}/confirm`, { version });
  const confirming: number[] = [];
  for (let n = 0; n < tries; n += 1) {
    const large = await quote(lineCount);
    confirming.push(await timed(() => confirm(large)));
    await end(large);
  }
  const orders: Quote[] = [];
  for (let n = 0; n < orderCount; n += 1) orders.push(await quote(3));
  for (const one of orders) await confirm(one);
  const rounds: number[] = [];
  for (let n = 0; n < tries; n += 1) {
    let roundId = 0;
    const orderIds = orders.map(({ id }) => id);
    rounds.push(
      await timed(async () => {
        roundId = (await ask<{ id: number }>('POST', '/api/outbound/rounds', { siteId: 1, orderIds })).id;
        await ask('GET', `/api/outbound/rounds/${roundId}`);
      }),
    );
    await ask('POST', `/api/outbound/rounds/${roundId}/end`, {});
  }
  for (const one of orders) await end(one);
  const listed: { show: string; ms: number }[] = [];
  for (const show of salesShows) {
    const times: number[] = [];
    for (let n = 0; n < tries; n += 1) times.push(await timed(() => ask('GET', `/api/outbound/orders?show=${show}&limit=60`)));
    listed.push({ show, ms: median(times) });
  }
  const slowest = [...listed].sort((a, b) => b.ms - a.ms)[0];
  const said = (times: readonly number[]) => `each time ${times.map((ms) => ms.toFixed(0)).join(', ')}`;
  return [
    { what: `an order of ${lineCount} lines confirmed, ms`, measured: median(confirming), limit: { atMost: 1000 }, detail: said(confirming) },
    { what: `a round over ${orderCount} orders begun and shown, ms`, measured: median(rounds), limit: { atMost: 1000 }, detail: said(rounds) },
    {
      what: 'the list of orders at its slowest stage, ms',
      measured: slowest?.ms ?? 0,
      limit: { atMost: 500 },
      detail: listed.map(({ show, ms }) => `${show} ${ms.toFixed(0)}`).join(', '),
    },
  ];
}
