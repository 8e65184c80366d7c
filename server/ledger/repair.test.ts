import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import { hold } from '../db/database';
import { openBusiness, type Business } from '../testing/business';
import { deskOf } from '../testing/desk';
import { repair } from './repair';
import { verify } from './verify';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(() => business.close());

/** Does what only an earlier version could have done: writes behind the back of triggers and checks. */
async function asBefore(...statements: string[]): Promise<void> {
  await hold(business.pool, async (client) => {
    await client.query('BEGIN');
    await client.query("SET LOCAL session_replication_role = 'replica'");
    for (const statement of statements) await client.query(statement);
    await client.query('COMMIT');
  });
}
const account = (purpose: string) => `(SELECT id FROM account WHERE purpose = '${purpose}')`;
const broken = async () => (await verify(business.pool)).filter((law) => law.broken.length > 0).map(({ name }) => name);
/** Moves cents between two accounts of the last entry whose words are like this. */
const off = (like: string, ...lines: [purpose: string, amount: string, itemId?: number][]) =>
  lines.map(
    ([purpose, amount, itemId]) =>
      `INSERT INTO journal_line (entry_id, account_id, item_id, amount) SELECT max(id), ${account(purpose)}, ${itemId ?? 'NULL'}, ${amount} FROM journal_entry WHERE text LIKE '${like}'`,
  );

test('cents that earlier versions left are put right once, by entries of today that say so; the laws hold then', async () => {
  const desk = deskOf(business);
  const order = async (sku: string, quantity: string, price: string, part = {}) => {
    const itemId = await business.item(sku, part);
    return { itemId, ...(await desk.order([{ itemId, quantity, price }])) };
  };
  // came in at 9.99 for 10.00 and was billed whole
  const short = await order('OLD-1', '3', '3.333333');
  await desk.receive([{ lineId: short.lineId, quantity: '3' }]);
  await desk.billed(short.lineId, '3', '3.333333');
  await asBefore(
    `UPDATE movement_line SET value = value - 0.01 WHERE item_id = ${short.itemId}`,
    `UPDATE pool SET value = value - 0.01 WHERE item_id = ${short.itemId}`,
    `UPDATE document_line SET arrived_value = arrived_value - 0.01 WHERE id = ${short.lineId}`,
    ...off('receipt%', ['inventory', '-0.01', short.itemId], ['credits-expected', '0.01']),
  );
  // a paid bill that owes a cent
  const paid = await order('OLD-2', '1', '5.00');
  await desk.receive([{ lineId: paid.lineId, quantity: '1' }]);
  const { id } = await desk.billed(paid.lineId, '1', '5.00');
  await business.owner.get(bills.pay, { params: { id }, body: { paidOn: '2026-03-10', amount: '5.00' } });
  await asBefore(
    'UPDATE payment SET settled = settled - 0.01, exchange = exchange + 0.01',
    ...off('% paid', ['payable', '-0.01'], ['exchange-difference', '0.01']),
  );
  // a worksheet that left a cent in stock when it was undone
  const charged = await order('OLD-3', '6', '1.00');
  const movementId = await desk.receive([{ lineId: charged.lineId, quantity: '6' }]);
  await desk.undoSheet((await desk.charge([movementId], [{ name: 'Freight', by: 'value', amount: '0.60' }])).data.id as number);
  await asBefore(
    `UPDATE cost_change SET amount = amount + 0.01 WHERE id = (SELECT max(id) FROM cost_change WHERE item_id = ${charged.itemId})`,
    `UPDATE pool SET value = value + 0.01 WHERE item_id = ${charged.itemId}`,
    ...off('%landed cost', ['inventory', '0.01', charged.itemId], ['cost-of-sales', '-0.01']),
  );
  // kept by lots, and lying there without one; by layers, and by serials
  for (const [sku, part, tracking] of [
    ['OLD-4', {}, 'lot'],
    ['OLD-5', { costMethod: 'fifo' as const }, 'lot'],
    ['OLD-6', {}, 'serial'],
  ] as const) {
    const line = await order(sku, '3', '2.25', part);
    await desk.receive([{ lineId: line.lineId, quantity: '3' }]);
    await asBefore(`UPDATE item SET tracking = '${tracking}' WHERE id = ${line.itemId}`);
  }
  // worth something on a day before it came
  const early = await order('OLD-7', '2', '4.00');
  await desk.receive([{ lineId: early.lineId, quantity: '2' }]);
  const entry = (day: string, amount: string) =>
    `WITH e AS (INSERT INTO journal_entry (effective_on, posted_at, text) VALUES ('${day}', now(), 'billed early') RETURNING id) INSERT INTO journal_line (entry_id, account_id, item_id, amount) SELECT e.id, ${account('inventory')}, ${early.itemId}, ${amount} FROM e UNION ALL SELECT e.id, ${account('price-variance')}, NULL, -(${amount}) FROM e`;
  await asBefore(
    `INSERT INTO cost_change (item_id, amount, cause, effective_on, seq) VALUES (${early.itemId}, 1.50, 'billed price', '2026-03-05', 900)`,
    `UPDATE pool SET value = value + 1.50, last_seq = 900 WHERE item_id = ${early.itemId}`,
    entry('2026-03-05', '1.50'),
  );
  // What each site's stock is worth is reckoned from the pools when a database of an earlier version is brought up.
  await asBefore('SELECT value_sites(ARRAY(SELECT item_id FROM pool))');
  expect((await broken()).length).toBe(6);

  await business.pool.query('UPDATE company SET repaired = 0');
  const told = await repair(business.pool, business.clock.now);
  expect(told).toEqual([
    `what came in on ${short.number} line 1 was off by 0.01`,
    'BILL-1002 was paid and owed 0.01',
    'LC-1001 was undone and had left 0.01 in stock',
    '3 of OLD-4 at A-1 lay there without a lot or serial',
    '3 of OLD-5 at A-1 lay there without a lot or serial',
    '3 of OLD-6 at A-1 lay there without a lot or serial',
    'OLD-7 had a value without stock on 2026-03-05',
  ]);
  expect(await broken()).toEqual([]);
  expect(await Promise.all([charged.itemId, early.itemId].map(desk.worth))).toEqual(['6.00', '9.50']);
  const { rows } = await business.pool.query("SELECT DISTINCT effective_on::text AS day FROM journal_entry WHERE text LIKE 'put right%'");
  expect(rows).toEqual([{ day: '2026-03-10' }]);
  expect(await repair(business.pool, business.clock.now)).toEqual([]);
});

test('books that are right stay as they are', async () => {
  const { rows: before } = await business.pool.query('SELECT count(*) FROM journal_entry');
  await business.pool.query('UPDATE company SET repaired = 0');
  expect(await repair(business.pool, business.clock.now)).toEqual([]);
  expect((await business.pool.query('SELECT count(*) FROM journal_entry')).rows).toEqual(before);
});
