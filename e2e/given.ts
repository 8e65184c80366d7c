import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';

/** Asks the server as the person signed in on the page, for what must succeed. */
async function ask<T>(page: Page, method: 'GET' | 'POST', path: string, body?: unknown): Promise<T> {
  const answer = await page.request.fetch(path, {
    method,
    headers: { 'Idempotency-Key': randomUUID(), 'Content-Type': 'application/json' },
    ...(body === undefined ? {} : { data: JSON.stringify(body) }),
  });
  if (!answer.ok()) throw new Error(`${method} ${path}: ${await answer.text()}`);
  return (await answer.json()) as T;
}

interface Id {
  id: number;
}
export interface Order extends Id {
  number: string;
  version: number;
  state: string;
  lines: { id: number; position: number; received: string; cancelled: string }[];
}

/** A bin at a site that is sold from. */
async function binAt(page: Page, siteId: number): Promise<number | undefined> {
  const { rows } = await ask<{ rows: (Id & { sellable: boolean; unplaced: boolean })[] }>(page, 'GET', `/api/setup/bins?siteId=${siteId}`);
  return rows.find(({ sellable, unplaced }) => sellable && !unplaced)?.id;
}

async function quoted(page: Page, customer: string, siteId: number, itemId: number, quantity: string): Promise<Order> {
  const { rows } = await ask<{ rows: Id[] }>(page, 'GET', `/api/setup/parties?as=customer&q=${encodeURIComponent(customer)}`);
  const day = new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10);
  const lines = [{ itemId, quantity, price: '9.00' }];
  return ask<Order>(page, 'POST', '/api/outbound/orders', { customerId: rows[0]?.id, siteId, shipBy: day, lines });
}

async function confirmed(page: Page, customer: string, siteId: number, itemId: number, quantity: string): Promise<Order> {
  const quote = await quoted(page, customer, siteId, itemId, quantity);
  await ask(page, 'POST', `/api/outbound/orders/${quote.id}/confirm`, { version: quote.version });
  return quote;
}

/** What a journey begins with, made by the same requests the pages make: goods and a supplier of its own, so that its figures stand by themselves. */
export const given = (page: Page) => ({
  supplier: async (name: string): Promise<number> => (await ask<Id>(page, 'POST', '/api/setup/parties', { name, isSupplier: true })).id,
  site: async (named = 'Barn store'): Promise<number> => {
    const { sites } = await ask<{ sites: (Id & { name: string })[] }>(page, 'GET', '/api/setup/reference');
    return sites.find(({ name }) => name === named)?.id ?? 0;
  },
  item: async (sku: string, facts: object): Promise<number> => {
    const { units } = await ask<{ units: Id[] }>(page, 'GET', '/api/setup/reference');
    return (await ask<Id>(page, 'POST', '/api/catalog/items', { sku, name: `Journey goods ${sku}`, unitId: units[0]?.id, ...facts })).id;
  },
  /** An order that was placed. */
  order: async (
    supplierId: number,
    siteId: number,
    lines: { itemId: number; quantity: string; price: string }[],
    expectedOn: string | null = null,
  ): Promise<Order> => {
    const { id, version } = await ask<Order>(page, 'POST', '/api/inbound/orders', { supplierId, siteId, expectedOn, lines });
    return ask<Order>(page, 'POST', `/api/inbound/orders/${id}/decision`, { decision: 'place', version });
  },
  orderNow: (id: number): Promise<Order> => ask<Order>(page, 'GET', `/api/inbound/orders/${id}`),
  /** A quote to a customer for so many of an item. */
  quote: (customer: string, siteId: number, itemId: number, quantity: string): Promise<Order> => quoted(page, customer, siteId, itemId, quantity),
  /** An order of a customer for so many of an item, confirmed. */
  confirmed: (customer: string, siteId: number, itemId: number, quantity: string): Promise<Order> => confirmed(page, customer, siteId, itemId, quantity),
  /** Sells so many of what lies in one lot, or so many serials: confirmed, picked and sent out. */
  sell: async (customer: string, siteId: number, itemId: number, quantity: string): Promise<Id & { number: string }> => {
    const quote = await confirmed(page, customer, siteId, itemId, quantity);
    const { sites } = await ask<{ sites: { siteId: number; bins: { binId: number; lots: { lotId: number; quantity: string }[] }[] }[] }>(
      page,
      'GET',
      `/api/stock/items/${itemId}`,
    );
    const bins = sites.find((one) => one.siteId === siteId)?.bins ?? [];
    const bin = bins.find(({ lots }) => lots.length > 0) ?? bins[0];
    const lineId = quote.lines[0]?.id;
    const lots = bin?.lots ?? [];
    const [first] = lots;
    const areSerials = first !== undefined && Number(first.quantity) < Number(quantity);
    const taken = areSerials ? lots.slice(0, Number(quantity)).map(({ lotId }) => ({ lotId, quantity: '1' })) : [{ lotId: first?.lotId ?? null, quantity }];
    await ask(page, 'POST', '/api/outbound/picks', { orderId: quote.id, lines: taken.map((of) => ({ lineId, binId: bin?.binId, ...of })) });
    await ask(page, 'POST', '/api/outbound/dispatches', { orderId: quote.id, lines: [{ lineId, quantity }] });
    return quote;
  },
  /** What so many of an item are made of. */
  bom: async (itemId: number, parts: { itemId: number; quantity: string }[]): Promise<void> => {
    const startsOn = new Date().toISOString().slice(0, 10);
    await ask(page, 'POST', '/api/making/boms', { itemId, startsOn, parts });
  },
  /** So many lie there from a day on, today where none is said, or these serials. */
  opening: async (itemId: number, siteId: number, quantity: string, serials: string[] = [], effectiveOn?: string): Promise<void> => {
    const lots = serials.map((code) => ({ code, quantity: '1' }));
    await ask(page, 'POST', '/api/stock/opening', { effectiveOn, lines: [{ itemId, binId: await binAt(page, siteId), quantity, unitValue: '2.00', lots }] });
  },
  /** Bins of its own in a zone of its own. */
  bins: async (siteId: number, codes: string[], zone: string): Promise<number[]> =>
    (await ask<{ rows: Id[] }>(page, 'POST', '/api/setup/bins', { siteId, codes, zone })).rows.map(({ id }) => id),
  /** So many lie in that bin. */
  put: async (itemId: number, binId: number, quantity: string): Promise<void> => {
    await ask(page, 'POST', '/api/stock/opening', { lines: [{ itemId, binId, quantity, unitValue: '2.00' }] });
  },
  /** So many of an item are picked for a customer, from wherever it lies. */
  picked: async (customer: string, siteId: number, itemId: number, quantity: string): Promise<Order> => {
    const order = await confirmed(page, customer, siteId, itemId, quantity);
    const { sites } = await ask<{ sites: { bins: { binId: number }[] }[] }>(page, 'GET', `/api/stock/items/${itemId}`);
    const binId = sites.flatMap(({ bins }) => bins)[0]?.binId;
    await ask(page, 'POST', '/api/outbound/picks', { orderId: order.id, lines: [{ lineId: order.lines[0]?.id, binId, lotId: null, quantity }] });
    return order;
  },
  /** What lies where of an item, as `A-1 5`. */
  lying: async (itemId: number): Promise<string[]> => {
    const { sites } = await ask<{ sites: { bins: { bin: string; quantity: string }[] }[] }>(page, 'GET', `/api/stock/items/${itemId}`);
    return sites.flatMap(({ bins }) => bins.map(({ bin, quantity }) => `${bin} ${quantity}`));
  },
  /** A round of one's own. */
  round: async (siteId: number, orderIds: number[]): Promise<number> => (await ask<Id>(page, 'POST', '/api/outbound/rounds', { siteId, orderIds })).id,
  /** A count of whole bins. */
  count: async (siteId: number, binIds: number[]): Promise<number> => (await ask<Id>(page, 'POST', '/api/counts', { siteId, plan: { binIds } })).id,
  /** So many go from bin to bin, by somebody else's hand. */
  move: async (itemId: number, quantity: string, fromBinId: number, toBinId: number): Promise<void> => {
    await ask(page, 'POST', '/api/stock/moves', { lines: [{ itemId, quantity, fromBinId, toBinId }] });
  },
  /** So many lie there without a bin. */
  loose: async (itemId: number, siteId: number, quantity: string): Promise<void> => {
    const { rows } = await ask<{ rows: (Id & { unplaced: boolean })[] }>(page, 'GET', `/api/setup/bins?siteId=${siteId}`);
    const binId = rows.find(({ unplaced }) => unplaced)?.id;
    await ask(page, 'POST', '/api/stock/opening', { lines: [{ itemId, binId, quantity, unitValue: '2.00' }] });
  },
  lotId: async (code: string): Promise<number> => {
    const { rows } = await ask<{ rows: (Id & { code: string })[] }>(page, 'GET', `/api/stock/lots?q=${encodeURIComponent(code)}`);
    return rows.find((lot) => lot.code === code)?.id ?? 0;
  },
  /** So many of each line are received, all of one lot where it is said. */
  receive: async (order: Order, siteId: number, quantities: string[], lot?: string): Promise<void> => {
    const binId = await binAt(page, siteId);
    const lines = order.lines.map(({ id }, index) => ({
      ...{ lineId: id, quantity: quantities[index], binId },
      ...(lot === undefined ? {} : { lots: [{ code: lot, quantity: quantities[index] }] }),
    }));
    await ask(page, 'POST', '/api/inbound/receipts', { lines });
  },
});
