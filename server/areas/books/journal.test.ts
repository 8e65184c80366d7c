import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as stock from '@larder/contract/stock';
import { openBusiness, type Business } from '../../testing/business';
import { ordered, stocked } from '../../testing/trade';
import * as receiving from '@larder/contract/receiving';

/** Cents in whole numbers, so that sums are exact whatever the books say. */
const cents = (amount: string): bigint => BigInt(amount.replace('.', ''));

let business: Business;
let received: string;
beforeAll(async () => {
  business = await openBusiness();
  const smoker = await business.item('SM-STD');
  const veil = await business.item('VEIL', { purchasePrice: '3.33' });
  await stocked(business, smoker, '10', '2.50');
  const order = await ordered(business, veil, '7', '3.33');
  await business.owner.get(receiving.receive, {
    body: { lines: [{ lineId: order.lineId, quantity: '7', binId: business.bins[0] as number }], packingNote: 'PN-881' },
  });
  received = order.number;
  business.clock.now = new Date('2026-03-12T10:00:00Z');
  await business.owner.get(stock.correct, {
    body: {
      reasonId: business.reasonId,
      way: 'plus-or-minus',
      note: 'one was crushed',
      lines: [{ itemId: smoker, binId: business.bins[0] as number, quantity: '-1' }],
    },
  });
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const found = async (query: Record<string, unknown> = {}) => (await business.owner.get(books.journal, { query })).rows;

describe('the journal', () => {
  test('tells each entry with its day, its document and lines that come to nothing', async () => {
    const rows = await found();
    expect(rows.map(({ day }) => day)).toEqual(['2026-03-12', '2026-03-10', '2026-03-10']);
    for (const { lines } of rows) expect(lines.reduce((sum, { amount }) => sum + cents(amount), 0n)).toBe(0n);
    expect(rows[1]?.document).toMatchObject({ kind: 'purchase order', number: received });
    expect(rows[1]?.lines.map(({ sku, amount }) => [sku, amount])).toEqual([
      ['VEIL', '23.31'],
      [null, '-23.31'],
    ]);
    expect(rows[1]?.text).toBe('receipt: packing note PN-881');
  });
  test('is found by amount, day and words, every one of them', async () => {
    expect((await found({ q: '23.31' })).map(({ day }) => day)).toEqual(['2026-03-10']);
    expect(await found({ q: '12/3' })).toHaveLength(1);
    expect(await found({ q: '12/3 23.31' })).toEqual([]);
    expect(await found({ q: 'nothing like it' })).toEqual([]);
  });
  test('is held to days and to an account', async () => {
    expect(await found({ from: '2026-03-11' })).toHaveLength(1);
    expect(await found({ to: '2026-03-11' })).toHaveLength(2);
    const grni = (await business.owner.get(books.listAccounts)).rows.find(({ purpose }) => purpose === 'grni');
    const rows = await found({ accountId: grni?.id });
    expect(rows).toHaveLength(2);
    for (const { lines } of rows) expect(lines.some(({ accountId }) => accountId === grni?.id)).toBe(true);
  });
  test('comes page by page, each entry once', async () => {
    const seen: number[] = [];
    let cursor: string | undefined;
    do {
      const page = await business.owner.get(books.journal, { query: { limit: 1, cursor } });
      seen.push(...page.rows.map(({ id }) => id));
      cursor = page.next ?? undefined;
    } while (cursor);
    expect(seen).toEqual((await found()).map(({ id }) => id));
  });
});

describe('accounts', () => {
  test('stand at the sum of their lines, and all of them at nothing', async () => {
    const { rows: accounts } = await business.owner.get(books.listAccounts);
    const sums = new Map<number, bigint>();
    for (const { lines } of await found()) for (const { accountId, amount } of lines) sums.set(accountId, (sums.get(accountId) ?? 0n) + cents(amount));
    for (const { id, balance } of accounts) expect(cents(balance)).toBe(sums.get(id) ?? 0n);
    expect(accounts.reduce((sum, { balance }) => sum + cents(balance), 0n)).toBe(0n);
  });
  test('what one held item by item stands for adds up to its balance', async () => {
    const grni = (await business.owner.get(books.listAccounts)).rows.find(({ purpose }) => purpose === 'grni');
    const one = await business.owner.get(books.getAccount, { params: { id: grni?.id as number } });
    expect((one.openItems ?? []).reduce((sum, { amount }) => sum + cents(amount), 0n)).toBe(cents(one.balance));
    expect((await business.owner.ask(books.getAccount, { params: { id: 999_999 } })).status).toBe(404);
  });
});

describe('the journal as a file', () => {
  const file = async (format: 'csv' | 'journal', query = {}) =>
    (await business.owner.get(books.journalFile, { query: { format, ...query } })) as unknown as string;
  test('has every line of every entry, oldest first', async () => {
    const [head, ...lines] = (await file('csv')).trim().split(/\r?\n/);
    expect(head).toMatch(/day/i);
    const all = (await found()).flatMap((entry) => entry.lines);
    expect(lines).toHaveLength(all.length);
    expect(lines[0]).toContain('2026-03-10');
    expect(lines.at(-1)).toContain('2026-03-12');
  });
  test('is held to days', async () => {
    expect(await file('csv', { from: '2026-03-12' })).not.toContain('2026-03-10');
    expect(await file('journal', { to: '2026-03-11' })).not.toContain('2026-03-12');
  });
  test('as plain text names each amount with its account', async () => {
    const text = await file('journal');
    for (const { day, lines } of await found()) {
      expect(text).toContain(day);
      for (const { name, amount } of lines) {
        expect(text).toContain(name);
        expect(text).toContain(amount);
      }
    }
  });
  test('is for those who may see cost', async () => {
    const onlooker = await business.as('Onlooker');
    const seen = await onlooker.ask(books.journalFile, { query: {} });
    const listed = await onlooker.ask(books.journal, { query: {} });
    expect([seen.status, listed.status]).toEqual([403, 403]);
  });
});
