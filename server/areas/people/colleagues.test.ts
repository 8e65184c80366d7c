import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import * as colleagues from '@larder/contract/colleagues';
import * as people from '@larder/contract/people';
import { firstRoles } from '@larder/contract/rights';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import { eq } from 'drizzle-orm';
import { drizzleOn } from '../../db/database';
import { change } from '../../db/schema/index';
import { openBusiness, signIn, type Business } from '../../testing/business';
import { stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(() => business.close());

const password = 'three snails under moss';
const all = () => business.owner.get(colleagues.listPeople);
const roleId = async (name: string) => (await all()).roles.find((role) => role.name === name)?.id as number;
const personCalled = async (name: string) => (await all()).people.find((person) => person.name === name) ?? { id: 0, roles: [], retired: false };
const add = async (name: string, roles: { roleId: number; siteId: number | null }[], more: object = {}) =>
  business.owner.ask(colleagues.addPerson, { body: { name, email: `${name.toLowerCase()}@test.example`, roles, password, ...more } });
const edit = (id: number, body: object) => business.owner.ask(colleagues.editPerson, { params: { id }, body: body as never });
const shutOut = (id: number, retired = true) => business.owner.ask(colleagues.retirePerson, { params: { id }, body: { retired } });

describe('who is let in', () => {
  test('may do at once what the role says, at the site it says and nowhere else', async () => {
    const [first] = business.bins as [number];
    const { rows } = await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-1'] } });
    const itemId = await business.item('WAX');
    await stocked(business, itemId, '9');
    expect((await add('Mabel', [{ roleId: await roleId('Floor'), siteId: business.siteId }])).status).toBe(200);
    const mabel = await signIn(business.base, 'mabel@test.example', password);
    const correct = (binId: number) =>
      mabel.ask(stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId, quantity: '1' }] } });
    expect((await correct(first)).status).toBe(200);
    expect((await correct(rows[0]?.id as number)).status).toBe(403);
    expect((await mabel.ask(colleagues.listPeople, {})).status).toBe(403);
    const { id, roles } = await personCalled('Mabel');
    expect(roles).toEqual([{ roleId: await roleId('Floor'), siteId: business.siteId }]);

    // another role, from the next request on; the session stays
    const floor = { name: 'Mabel', email: 'mabel@test.example', password: null };
    expect((await edit(id, { ...floor, roles: [{ roleId: await roleId('Onlooker'), siteId: null }] })).status).toBe(200);
    expect((await correct(first)).status).toBe(403);
    expect((await mabel.get(people.me)).grants).toEqual([{ siteId: null, rights: firstRoles.Onlooker }]);
  });

  test('needs a role, an address of their own and a password that is hard to guess; each is said at its field', async () => {
    const onlooker = [{ roleId: await roleId('Onlooker'), siteId: null }];
    const fieldOf = async (given: ReturnType<typeof add>) => (await given).problem.errors?.[0];
    expect(await fieldOf(add('Rolf', []))).toEqual({ field: 'roles', sentence: 'Give a role, or nothing can be done.' });
    expect(await fieldOf(add('Rolf', [...onlooker, ...onlooker]))).toEqual({ field: 'roles.1.roleId', sentence: 'This role is given twice.' });
    expect(await fieldOf(add('Rolf', [{ roleId: 9999, siteId: null }]))).toEqual({ field: 'roles.0.roleId', sentence: 'Choose a role.' });
    expect(await fieldOf(add('Rolf', [{ ...onlooker[0], siteId: 9999 } as never]))).toEqual({ field: 'roles.0.siteId', sentence: 'Choose a site.' });
    expect(await fieldOf(add('Rolf', onlooker, { email: 'OWNER@test.example' }))).toEqual({ field: 'email', sentence: 'Owner has this mail address.' });
    expect(await fieldOf(add('Rolf', onlooker, { email: 'nobody' }))).toMatchObject({ field: 'email' });
    expect(await fieldOf(add('Rolf', onlooker, { password: 'rolfrolfrolf' }))).toMatchObject({ field: 'password' });
    expect((await all()).people.some(({ name }) => name === 'Rolf')).toBe(false);
  });

  test('keeps a role at a site that was retired since, and is given no new one there', async () => {
    const { id: siteId } = await business.owner.get(setup.createSite, { body: { code: 'OLD', name: 'Old mill' } });
    const at = { roleId: await roleId('Floor'), siteId };
    await add('Hetty', [at]);
    const { id } = await personCalled('Hetty');
    await business.owner.get(setup.retireSite, { params: { id: siteId }, body: { retired: true } });
    const body = { name: 'Hetty Vane', email: 'hetty@test.example', password: null };
    expect((await edit(id, { ...body, roles: [at] })).status).toBe(200);
    const refused = await edit(id, { ...body, roles: [at, { roleId: await roleId('Onlooker'), siteId }] });
    expect(refused.problem.errors).toEqual([{ field: 'roles.1.siteId', sentence: 'Old mill is retired; choose another site.' }]);
    expect((await personCalled('Hetty Vane')).roles).toEqual([at]);
  });
});

describe('who leaves', () => {
  test('is shut out in every window, and comes in again when taken back', async () => {
    await add('Bram', [{ roleId: await roleId('Sales desk'), siteId: null }]);
    const { id } = await personCalled('Bram');
    const bram = await signIn(business.base, 'bram@test.example', password);
    expect((await shutOut(id)).status).toBe(200);
    expect((await bram.ask(people.me, {})).status).toBe(401);
    await expect(signIn(business.base, 'bram@test.example', password)).rejects.toThrow('do not belong together');
    expect((await all()).people.at(-1)).toMatchObject({ name: 'Bram', retired: true });
    const taken = await add('Bruno', [{ roleId: await roleId('Floor'), siteId: null }], { email: 'bram@test.example' });
    expect(taken.problem.errors?.[0]?.sentence).toBe('Bram, who has left, has this mail address.');
    expect((await shutOut(id, false)).status).toBe(200);
    // the session that ended stays ended
    expect((await bram.ask(people.me, {})).status).toBe(401);
    expect((await signIn(business.base, 'bram@test.example', password)).cookie).toContain('larder_session');
  });

  test('a new password ends all sessions, and is not what the history tells', async () => {
    await add('Nora', [{ roleId: await roleId('Floor'), siteId: null }]);
    const { id, roles } = await personCalled('Nora');
    const nora = await signIn(business.base, 'nora@test.example', password);
    const fresh = 'nine lanterns over water';
    expect((await edit(id, { name: 'Nora', email: 'nora@test.example', roles, password: fresh })).status).toBe(200);
    expect((await nora.ask(people.me, {})).status).toBe(401);
    await expect(signIn(business.base, 'nora@test.example', password)).rejects.toThrow('do not belong together');
    await signIn(business.base, 'nora@test.example', fresh);
    const told = await drizzleOn(business.pool).select().from(change).where(eq(change.kind, 'person'));
    expect(told.filter(({ subjectId, field }) => subjectId === id && field === 'password').map(({ is }) => is)).toEqual(['new']);
    expect(JSON.stringify(told)).not.toContain('lanterns');
    expect(told.find(({ subjectId, field }) => subjectId === id && field === 'roles')?.is).toBe('Floor');
  });

  test('the last who may set up the business stays, whoever tries at the same time', async () => {
    const owner = await roleId('Owner');
    const mine = await personCalled('Owner');
    const me = { name: 'Owner', email: 'owner@test.example', password: null };
    const floor = [{ roleId: await roleId('Floor'), siteId: null }];
    for (const roles of [floor, [{ roleId: owner, siteId: business.siteId }]])
      expect((await edit(mine.id, { ...me, roles })).problem).toMatchObject({ type: 'nobody-left', errors: [{ field: 'roles' }] });
    expect((await shutOut(mine.id)).problem.title).toContain('Nobody shuts themselves out');
    expect((await edit(mine.id, { ...me, roles: mine.roles, password })).problem.errors?.[0]?.field).toBe('password');

    // two owners take the role from each other in the same moment: one of them keeps it
    await add('Ida', [{ roleId: owner, siteId: null }]);
    const ida = await personCalled('Ida');
    const asIda = await signIn(business.base, 'ida@test.example', password);
    const done = await Promise.all([
      asIda.ask(colleagues.editPerson, { params: { id: mine.id }, body: { ...me, roles: floor } }),
      edit(ida.id, { name: 'Ida', email: 'ida@test.example', password: null, roles: floor }),
    ]);
    const statuses = done.map(({ status }) => status);
    expect(statuses.filter((status) => status === 200)).toHaveLength(1);
    // the other had the role no more when it was asked, or would have been the last
    expect([403, 409]).toContain(statuses.find((status) => status !== 200));
    // for the tests that follow, and the close
    const left = done[0].status === 200 ? asIda : business.owner;
    await left.get(colleagues.editPerson, { params: { id: mine.id }, body: { ...me, roles: mine.roles } });
  });
});
