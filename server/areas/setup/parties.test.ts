import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as catalog from '@larder/contract/catalog';
import * as inbound from '@larder/contract/inbound';
import * as setup from '@larder/contract/setup';
import { openBusiness, type Business } from '../../testing/business';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const add = (part: object) => business.owner.ask(setup.createParty, { body: { name: 'Nobody', ...part } as never });
const names = async (query: object) => (await business.owner.get(setup.listParties, { query })).rows.map(({ name }) => name);

describe('suppliers and customers', () => {
  test('are found by letters in any order, as what they are', async () => {
    await add({ name: 'Brightwick Glass', isSupplier: true });
    await add({ name: 'Glass Lane Deli', isCustomer: true });
    await add({ name: 'Mill & Glass', isSupplier: true, isCustomer: true });
    expect(await names({ q: 'glass' })).toEqual(['Brightwick Glass', 'Glass Lane Deli', 'Mill & Glass']);
    expect(await names({ q: 'glass bright' })).toEqual(['Brightwick Glass']);
    expect(await names({ q: 'glass', as: 'supplier' })).toEqual(['Brightwick Glass', 'Mill & Glass']);
    expect(await names({ q: 'glass', as: 'customer' })).toEqual(['Glass Lane Deli', 'Mill & Glass']);
    expect(await names({ q: '%' })).toEqual([]);
  });

  test('are one or the other or both, by a name of their own, with days that can be', async () => {
    expect((await add({ name: 'Neither' })).problem.errors).toEqual([{ field: 'isSupplier', sentence: 'Say whether this is a supplier, a customer or both.' }]);
    expect((await add({ name: 'hexley joinery', isSupplier: true })).problem.errors).toEqual([{ field: 'name', sentence: 'Hexley Joinery is there already.' }]);
    expect((await add({ name: '  ', isSupplier: true })).problem.errors[0]).toMatchObject({ field: 'name' });
    expect((await add({ name: 'Slow', isSupplier: true, leadDays: 400 })).problem.errors).toEqual([
      { field: 'leadDays', sentence: 'Give days from 0 to 365.' },
    ]);
    expect((await add({ name: 'Taxed', isSupplier: true, taxCodeId: 99 })).problem.errors).toEqual([{ field: 'taxCodeId', sentence: 'There is no such tax.' }]);
  });

  test('are changed by one person at a time; what changed is kept', async () => {
    const { data: made } = await add({ name: 'Oldname', isSupplier: true });
    const body = { name: 'Newname', email: 'orders@newname.example', address: '1 Yard', leadDays: 12, taxCodeId: null };
    const changed = await business.owner.get(setup.editParty, { params: { id: made.id }, body: { ...body, version: made.version } });
    expect(changed).toMatchObject({ name: 'Newname', leadDays: 12, version: made.version + 1 });
    const stale = await business.owner.ask(setup.editParty, { params: { id: made.id }, body: { ...body, version: made.version } });
    expect(stale.status).toBe(409);
    const { rows } = await business.pool.query<{ field: string }>(`SELECT field FROM change WHERE kind = 'party' AND subject_id = $1 ORDER BY id`, [made.id]);
    expect(rows.map(({ field }) => field)).toEqual(expect.arrayContaining(['name', 'email', 'address', 'leadDays']));
    const { rows: places } = await business.pool.query<{ code: string }>('SELECT code FROM place WHERE party_id = $1', [made.id]);
    expect(places).toEqual([{ code: 'Newname' }]);
    expect((await business.owner.ask(setup.editParty, { params: { id: 99_999 }, body: { ...body, version: 1 } })).status).toBe(404);
    const taken = await business.owner.ask(setup.editParty, {
      params: { id: made.id },
      body: { ...body, name: 'Hexley Joinery', version: changed.version },
    });
    expect(taken.problem.errors[0]?.field).toBe('name');
  });

  test('the scan bar leads to suppliers by their name', async () => {
    const { rows } = await business.owner.get(catalog.find, { query: { q: 'hexley' } });
    expect(rows).toContainEqual({ kind: 'supplier', id: business.supplierId, code: 'Supplier', name: 'Hexley Joinery', exact: false });
    expect((await business.owner.get(inbound.getSupplier, { params: { id: business.supplierId } })).name).toBe('Hexley Joinery');
  });
});

describe('what forms choose from', () => {
  test('sites, units, categories, reasons and today’s taxes', async () => {
    const reference = await business.owner.get(setup.reference);
    expect(reference.sites.map(({ code }) => code)).toEqual(['BARN', 'HARB']);
    expect(reference.units.find(({ code }) => code === 'kg')).toMatchObject({ name: 'kilogram', step: '0.001' });
    expect(reference.taxes.map(({ code, rate }) => [code, rate])).toEqual([
      ['S', '20'],
      ['Z', '0'],
    ]);
    expect(reference.reasons.map(({ code }) => code)).toContain('own-use');
  });

  test('a category is renamed, and its name is its own', async () => {
    const jars = await business.owner.get(setup.createCategory, { body: { name: 'Jars' } });
    await business.owner.get(setup.createCategory, { body: { name: 'Lids' } });
    expect((await business.owner.ask(setup.createCategory, { body: { name: 'jars' } })).problem.errors).toEqual([
      { field: 'name', sentence: 'There is a category jars already.' },
    ]);
    const edit = (name: string) => business.owner.ask(setup.editCategory, { params: { id: jars.id }, body: { name } });
    expect((await edit('LIDS')).problem.errors[0]?.field).toBe('name');
    expect((await edit('Glass jars')).data).toMatchObject({ id: jars.id, name: 'Glass jars' });
    expect((await business.owner.ask(setup.editCategory, { params: { id: 9999 }, body: { name: 'x' } })).status).toBe(404);
  });

  test('a site has a code of its own, its bench and its place for goods without a bin', async () => {
    const taken = await business.owner.ask(setup.createSite, { body: { code: 'barn', name: 'Another' } });
    expect(taken.problem.errors).toEqual([{ field: 'code', sentence: 'barn is already the code of Barn store.' }]);
    const van = await business.owner.get(setup.createSite, { body: { code: 'VAN', name: 'Market van' } });
    const { rows } = await business.pool.query<{ kind: string; unplaced: boolean }>('SELECT kind, unplaced FROM place WHERE site_id = $1 ORDER BY kind', [
      van.id,
    ]);
    expect(rows).toEqual([
      { kind: 'bench', unplaced: false },
      { kind: 'bin', unplaced: true },
    ]);
  });
});
