import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as lists from '@larder/contract/lists';
import * as picking from '@larder/contract/picking';
import * as shipping from '@larder/contract/shipping';
import * as people from '@larder/contract/people';
import * as planning from '@larder/contract/planning';
import * as setup from '@larder/contract/setup';
import { openBusiness, type Business } from '../../testing/business';
import { pickBody, sold, stocked } from '../../testing/trade';

let business: Business;
beforeAll(async () => void (business = await openBusiness()));
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});

const bins = async () => (await business.owner.get(setup.listBins, { query: { siteId: business.siteId, retired: 'with' } })).rows;
const edit = (part: object) => business.owner.ask(setup.editBins, { body: { ids: business.bins, ...part } });

test('first steps of the business tick by what was really done, can be put away and brought back', async () => {
  const done = async () => (await business.owner.get(planning.firstSteps)).steps.filter((step) => step.done).map(({ key }) => key);
  expect(await done()).toEqual(['places']);
  const itemId = await business.item('FIRST-1');
  await stocked(business, itemId, '5');
  expect(await done()).toEqual(['places', 'items', 'order-in']);
  expect(await business.owner.get(planning.putFirstStepsAway, { body: { away: true } })).toMatchObject({ away: true, of: 'business' });
  expect((await business.owner.get(planning.putFirstStepsAway, { body: { away: false } })).away).toBe(false);
});

test('a new colleague sees only steps that are theirs to do, ticked by their own work', async () => {
  const itemId = await business.item('FIRST-2');
  await business.pool.query(`INSERT INTO movement (kind, effective_on, posted_at, person_id) VALUES ('opening', '2026-03-10', now(), 1)`);
  await stocked(business, itemId, '3');
  const order = await sold(business, itemId, '2');
  await business.owner.get(picking.pick, { body: pickBody(business, order, '2') });
  const floor = await business.as('Floor');
  await floor.get(shipping.dispatch, { body: { orderId: order.id, lines: [{ lineId: order.lineId, quantity: '2' }] } });
  expect(await floor.get(planning.firstSteps)).toEqual({
    away: false,
    of: 'person',
    steps: [
      { key: 'opening', done: false },
      { key: 'order-in', done: false },
      { key: 'order-out', done: true },
    ],
  });
});

test('items brought in by a file tick the step of whoever brought them in', async () => {
  const keeper = await business.as('Stock controller');
  const items = async () => (await keeper.get(planning.firstSteps)).steps.find(({ key }) => key === 'items')?.done;
  expect(await items()).toBe(false);
  await business.pool.query(
    `INSERT INTO import_job (person_id, kind, file_name, at, rows, report, state) VALUES ($1, 'items', 'a.csv', now(), '[]', '[]', 'done')`,
    [(await keeper.get(people.me)).id],
  );
  expect(await items()).toBe(true);
});

test('bins change together: zone and walking order; what holds goods stays as it is', async () => {
  expect((await edit({ zone: 'Front', walkFrom: 40 })).data).toEqual({ changed: 3 });
  const found = (await bins()).filter(({ id }) => business.bins.includes(id));
  expect(found.map(({ code, zone, walk }) => `${code} ${zone} ${walk}`)).toEqual(['A-1 Front 40', 'A-2 Front 41', 'B-1 Front 42']);
  expect((await edit({ sellable: false })).problem).toMatchObject({ type: 'bin-not-empty', title: 'A-1 still holds FIRST-1. Move what lies there first.' });
  expect((await edit({ retired: true })).problem.type).toBe('bin-not-empty');
  expect((await edit({ ids: [business.bins[2]], retired: true })).status).toBe(200);
  expect((await business.owner.get(setup.listBins, { query: { siteId: business.siteId } })).rows.map(({ code }) => code)).not.toContain('B-1');
  const unplaced = (await bins()).find((bin) => bin.unplaced)?.id;
  expect((await edit({ ids: [unplaced], retired: true })).problem.type).toBe('bin-needed');
  expect((await edit({ ids: [999999], zone: 'x' })).status).toBe(404);
});

test('bins are made in order behind those that are there; a code twice or in use is told', async () => {
  const make = (codes: string[]) => business.owner.ask(setup.createBins, { body: { siteId: business.siteId, codes, zone: 'Back' } });
  expect((await make(['C-1', 'c-1'])).problem.errors[0]).toMatchObject({ field: 'codes.1' });
  expect((await make(['a-1'])).problem.title).toBe('A-1 is already a bin of this site.');
  const made = (await make(['C-1', 'C-2'])).data.rows;
  expect(made.map(({ zone, walk }) => `${zone} ${walk}`)).toEqual(['Back 43', 'Back 44']);
});

test('a site is retired when nothing lies or waits there', async () => {
  const retire = (id: number, retired = true) => business.owner.ask(setup.retireSite, { params: { id }, body: { retired } });
  expect((await retire(business.siteId)).problem.title).toContain('Goods still lie at Barn store');
  expect((await retire(business.otherSiteId)).status).toBe(200);
  expect((await business.owner.get(setup.reference)).sites.map(({ code }) => code)).toEqual(['BARN']);
  expect((await retire(business.otherSiteId, false)).status).toBe(200);
});

test('filters are kept by name for one person, replaced under the same name, and forgotten', async () => {
  const keep = (search: string, pinned = false) => business.owner.get(lists.keepView, { body: { list: 'items', name: 'Low jars', search, pinned } });
  const { id } = await keep('?q=jar');
  expect((await keep('?q=jar&state=low', true)).id).toBe(id);
  expect((await business.owner.get(lists.keptViews)).rows).toMatchObject([{ name: 'Low jars', search: '?q=jar&state=low', pinned: true }]);
  const other = await business.as('Stock controller');
  expect((await other.get(lists.keptViews)).rows).toEqual([]);
  const shared = await business.owner.get(lists.keepView, { body: { list: 'low', name: 'Low at the barn', search: '?state=low', shared: true } });
  expect((await other.get(lists.keptViews)).rows).toMatchObject([{ name: 'Low at the barn', shared: true, mine: false, person: 'Owner' }]);
  expect((await other.ask(lists.forgetView, { params: { id: shared.id } })).status).toBe(404);
  await business.owner.get(lists.forgetView, { params: { id: shared.id } });
  expect((await other.ask(lists.forgetView, { params: { id } })).status).toBe(404);
  await business.owner.get(lists.forgetView, { params: { id } });
  expect((await business.owner.get(lists.keptViews)).rows).toEqual([]);
});

test('columns of a list are laid out for one person, list by list; the last layout stands', async () => {
  const keep = (list: 'items' | 'stock', layout: lists.ColumnLayout) => business.owner.ask(lists.keepLayout, { body: { list, layout } });
  await keep('stock', { hidden: ['Value'], shown: [], order: [], widths: {} });
  await keep('items', { hidden: [], shown: [], order: ['Free', 'Name'], widths: { Name: 320 } });
  await keep('stock', { hidden: ['Unit cost', 'Value'], shown: [], order: ['Free', 'On hand'], widths: { Item: 200 } });
  const { rows } = await business.owner.get(lists.keptLayouts);
  expect(rows.sort((a, b) => a.list.localeCompare(b.list))).toEqual([
    { list: 'items', layout: { hidden: [], shown: [], order: ['Free', 'Name'], widths: { Name: 320 } } },
    { list: 'stock', layout: { hidden: ['Unit cost', 'Value'], shown: [], order: ['Free', 'On hand'], widths: { Item: 200 } } },
  ]);
  expect((await (await business.as('Floor')).get(lists.keptLayouts)).rows).toEqual([]);
  expect((await keep('items', { hidden: [], shown: [], order: [], widths: { Name: 5 } })).status).toBe(422);
  expect(
    (await business.owner.ask(lists.keepLayout, { body: { list: 'nothing' as 'items', layout: { hidden: [], shown: [], order: [], widths: {} } } })).status,
  ).toBe(422);
});
