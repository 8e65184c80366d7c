import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as bills from '@larder/contract/bills';
import * as contract from '@larder/contract/handover';
import { openBusiness, type Business } from '../../testing/business';
import { stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const theirs: Record<string, string> = { inventory: '0400', grni: '0820', payable: '0810', 'purchase-tax': '0240' };
const mapAll = async () => {
  const { rows } = await business.pool.query<{ id: number; purpose: string | null }>('SELECT id, purpose FROM account');
  return business.owner.get(contract.mapAccounts, {
    body: { rows: rows.map(({ id, purpose }) => ({ accountId: id, outsideCode: theirs[purpose ?? ''] ?? '5900' })) },
  });
};

test('entries go out once each, are seen as gone, are taken back and sent again, and both sides agree throughout', async () => {
  const { owner, supplierId } = business;
  const itemId = await business.item('HND-1');
  const { order } = await stocked(business, itemId, '10', '3.00');
  const unmapped = await owner.get(contract.handover);
  expect(unmapped).toMatchObject({ waiting: 1, ready: 0, gone: 0, outside: [] });
  expect((await owner.ask(contract.handOver, { body: {} })).status).toBe(409);
  const brought = await owner.get(contract.bringInAccounts);
  expect(brought.outside.map(({ code }) => code)).toContain('0400');
  expect((await mapAll()).ready).toBe(1);

  await owner.get(bills.createBill, {
    body: {
      partyId: supplierId,
      reference: 'H-1',
      billedOn: '2026-03-10',
      lines: [{ kind: 'goods', purchaseLineId: order.lineId, quantity: '10', price: '3.00' }],
    },
  });
  const [first, second] = await Promise.all([owner.ask(contract.handOver, { body: {} }), owner.ask(contract.handOver, { body: {} })]);
  expect([first, second].map(({ status }) => status).sort()).toEqual([200, 409]);
  const { rows } = await owner.get(contract.listHanded, {});
  expect(rows.map(({ outsideNumber, amount }) => [/^T-\d{6}$/.test(outsideNumber), amount])).toEqual([
    [true, '30.00'],
    [true, '30.00'],
  ]);
  const even = await owner.get(contract.compare);
  expect(even).toMatchObject({ documents: 2, missing: [], unknown: [], different: [] });
  expect(even.accounts.map(({ code, ours, theirs: there, same }) => [code, ours, there, same])).toEqual([
    ['0400', '30.00', '30.00', true],
    ['0810', '-30.00', '-30.00', true],
    ['0820', '0.00', '0.00', true],
  ]);

  const bill = rows.find(({ text }) => text.includes('H-1'));
  const back = await owner.get(contract.takeBack, { params: { id: bill?.id as number } });
  expect(back).toMatchObject({ waiting: 1, ready: 1, gone: 1 });
  expect((await owner.ask(contract.takeBack, { params: { id: bill?.id as number } })).status).toBe(409);
  expect((await owner.get(contract.compare)).accounts.find(({ code }) => code === '0810')).toBeUndefined();
  await owner.get(contract.handOver, { body: { entryId: bill?.entryId ?? 0 } });
  const again = (await owner.get(contract.listHanded, {})).rows.filter(({ entryId }) => entryId === bill?.entryId);
  expect(again.map(({ reference, takenBackAt }) => [reference, takenBackAt !== null])).toEqual([
    [`${bill?.entryId}.2`, false],
    [`${bill?.entryId}.1`, true],
  ]);
  expect((await owner.get(contract.compare)).accounts.every(({ same }) => same)).toBe(true);
});

test('what the accounting service lost, or has and nobody sent, is said', async () => {
  const { owner, pool } = business;
  await pool.query(`UPDATE standin_document SET reversed = true WHERE id = (SELECT min(id) FROM standin_document)`);
  await pool.query(`INSERT INTO standin_document (reference, kind, day, party, text, at) VALUES ('by hand', 'entry', '2026-03-10', '', 'typed there', now())`);
  await pool.query(
    `INSERT INTO standin_document_line (document_id, account_code, amount) SELECT id, '0400', 5 FROM standin_document WHERE reference = 'by hand'`,
  );
  const { missing, unknown, accounts } = await owner.get(contract.compare);
  expect([missing.length, unknown]).toEqual([1, ['by hand']]);
  expect(accounts.find(({ code }) => code === '0400')).toMatchObject({ ours: '30.00', theirs: '5.00', same: false });
});

test('an account of which something has gone keeps its mapping; one that is not theirs is refused', async () => {
  const { owner } = business;
  const { mapping } = await owner.get(contract.handover);
  const stock = mapping.find(({ outsideCode }) => outsideCode === '0400');
  const move = (outsideCode: string) => owner.ask(contract.mapAccounts, { body: { rows: [{ accountId: stock?.accountId as number, outsideCode }] } });
  expect((await move('5900')).problem.errors[0]?.sentence).toContain('Take those back first.');
  expect((await move('9999')).problem.errors[0]?.field).toBe('rows.0.outsideCode');
});
