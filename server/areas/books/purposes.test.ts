import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as books from '@larder/contract/books';
import * as setup from '@larder/contract/setup';
import { openBusiness, type Business } from '../../testing/business';
import { stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const accounts = async () => (await business.owner.get(books.listAccounts)).rows;
const add = (code: string, name: string, type: (typeof books.accountTypes)[number]) => business.owner.get(books.createAccount, { body: { code, name, type } });
const map = (purpose: 'price-variance' | 'grni', accountId: number) => business.owner.ask(books.mapPurpose, { body: { purpose, accountId } });

test('a purpose goes over to another account of the same kind', async () => {
  const to = await add('5211', 'Price differences, wood', 'expense');
  expect((await map('price-variance', to.id)).data).toMatchObject({ code: '5211', purpose: 'price-variance' });
  expect((await accounts()).find(({ code }) => code === '5210')?.purpose).toBeNull();
});

test('what is held item by item stays where it is once something was posted', async () => {
  const item = await business.item('GR-1');
  await stocked(business, item, '5', '2.00');
  const to = await add('2119', 'Goods received, new', 'liability');
  const refused = await map('grni', to.id);
  expect(refused.status).toBe(409);
  expect(refused.problem.errors).toEqual([
    {
      field: 'accountId',
      sentence: 'Goods received, not invoiced was posted to already and is held against what it stands for; it stays. Give it another number or name instead.',
    },
  ]);
});

test('an account of another kind, one in use and one that is not there are refused', async () => {
  const bank = (await accounts()).find(({ code }) => code === '1000')?.id as number;
  expect((await map('price-variance', bank)).problem.title).toBe('Bank is used for what is paid; choose an account that is used for nothing yet.');
  const asset = await add('1999', 'Something owned', 'asset');
  expect((await map('price-variance', asset.id)).problem.title).toBe('Something owned is an account of asset; this asks for one of expense.');
  expect((await map('price-variance', 999_999)).status).toBe(404);
});

test('units are added, each with the part of it that is counted; a name in use is refused by its field', async () => {
  const gram = await business.owner.get(setup.createUnit, { body: { code: 'g', name: 'gram', step: '0.1' } });
  expect((await business.owner.get(setup.reference)).units).toContainEqual({ id: gram.id, code: 'g', name: 'gram', step: '0.1', retired: false });
  const item = await business.item('SPICE', { unitId: gram.id });
  expect(item).toBeGreaterThan(0);
  const again = await business.owner.ask(setup.createUnit, { body: { code: 'Gram', name: 'another' } });
  expect(again.problem.errors).toEqual([{ field: 'code', sentence: 'There is a unit g already.' }]);
  const odd = await business.owner.ask(setup.createUnit, { body: { code: 'x', name: 'x', step: '0.3' as never } });
  expect(odd.problem.errors).toEqual([{ field: 'step', sentence: 'Choose the smallest part that is counted.' }]);
});
