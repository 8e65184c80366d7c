import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Asked, Endpoint } from '@larder/contract/endpoint';
import * as catalog from '@larder/contract/catalog';
import * as corrections from '@larder/contract/corrections';
import * as counts from '@larder/contract/counts';
import * as customers from '@larder/contract/customers';
import * as exchange from '@larder/contract/exchange';
import * as explain from '@larder/contract/explain';
import * as families from '@larder/contract/families';
import * as floor from '@larder/contract/floor';
import * as inbound from '@larder/contract/inbound';
import { endpoints } from '@larder/contract/index';
import * as making from '@larder/contract/making';
import * as margin from '@larder/contract/margin';
import * as loans from '@larder/contract/loans';
import * as moves from '@larder/contract/moves';
import * as straight from '@larder/contract/direct';
import * as gaps from '@larder/contract/gaps';
import * as outbound from '@larder/contract/outbound';
import * as shipping from '@larder/contract/shipping';
import * as people from '@larder/contract/people';
import * as levels from '@larder/contract/levels';
import * as runningLow from '@larder/contract/runningLow';
import * as planning from '@larder/contract/planning';
import * as recalls from '@larder/contract/recalls';
import * as reminders from '@larder/contract/reminders';
import * as post from '@larder/contract/post';
import * as receiving from '@larder/contract/receiving';
import { rightScope } from '@larder/contract/rights';
import * as picking from '@larder/contract/picking';
import * as setup from '@larder/contract/setup';
import * as lotContract from '@larder/contract/lots';
import * as returns from '@larder/contract/returns';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import * as takingApart from '@larder/contract/takingApart';
import * as workOrders from '@larder/contract/workOrders';
import * as records from '@larder/contract/workRecords';
import * as ubl from '@larder/contract/ubl';
import { eq } from 'drizzle-orm';
import { transaction } from '../db/database';
import { addPerson } from '../db/found';
import { roleGrant } from '../db/schema/index';
import { Caller, openBusiness, signIn, type Business } from '../testing/business';
import { ordered, pickBody, sold, stocked } from '../testing/trade';
import { answerTo, type Service } from './route';

/** Who looks at one site is shown nothing of another, and who looks at every site the same as who looks at the whole company. */
let business: Business;
let elsewhere: Caller;
let everywhere: Caller;
let itemId: number;
/** What an answer that shows anything of the Barn store would have in it. */
let marks: RegExp;
let things: [Endpoint, Asked<Endpoint>][];
let lists: [Endpoint, Asked<Endpoint>][];

async function ownerAt(name: string, siteIds: readonly number[]): Promise<Caller> {
  const email = `${name}@test.example`;
  await transaction(business.pool, 'write', async ({ db, ...tx }) => {
    const personId = await addPerson({ db, ...tx }, { name, email, password: 'only for tests' }, 'Owner');
    const [first, ...more] = siteIds;
    await db
      .update(roleGrant)
      .set({ siteId: first ?? null })
      .where(eq(roleGrant.personId, personId));
    const [grant] = await db.select().from(roleGrant).where(eq(roleGrant.personId, personId));
    for (const siteId of more) await db.insert(roleGrant).values({ personId, roleId: grant?.roleId as number, siteId });
  });
  return signIn(business.base, email);
}

/** Fields of a list as a file that tell of a site, or what there is at it. */
const fieldsOf = {
  stock: 'sku,site,onHand',
  purchases: 'number,site,sku',
  sales: 'number,site,sku',
  trail: 'sku,from,to,document',
  lots: 'sku,code,onHand',
  policies: 'sku,site',
  items: 'sku,onHand,free',
} as const;

beforeAll(async () => {
  business = await openBusiness();
  const { siteId, owner } = business;
  itemId = await business.item('SEEN-1', { policies: [{ siteId, reorderPoint: '50', orderUpTo: '90' }] });
  const { order: received } = await stocked(business, itemId, '10', '3.33');
  const open = await ordered(business, itemId, '5');
  const sale = await sold(business, itemId, '2');
  await owner.get(picking.pick, { body: pickBody(business, sale, '1') });
  const gone = await owner.get(shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '1' }] } });
  const boxedItem = await business.item('SEEN-4');
  await stocked(business, boxedItem, '1');
  const boxed = await sold(business, boxedItem, '1');
  await owner.get(picking.pick, { body: pickBody(business, boxed, '1') });
  const { parcels } = await owner.get(shipping.packOrder, {
    params: { id: boxed.id },
    body: { siteId, seen: [], parcels: [{ contents: [{ lineId: boxed.lineId, quantity: '1' }] }] },
  });
  const parcelIds = parcels.map(({ id }) => id);
  const short = await sold(business, await business.item('SEEN-3'), '9');
  const round = await owner.get(picking.startRound, { body: { siteId, orderIds: [sale.id] } });
  const serialItem = await business.item('SEEN-2', { tracking: 'serial' });
  const binId = business.bins[0] as number;
  await owner.get(stock.openStock, {
    body: { lines: [{ itemId: serialItem, binId, quantity: '1', unitValue: '9.00', lots: [{ code: 'SER-77', quantity: '1' }] }] } as never,
  });
  const { rows: lots } = await owner.get(lotContract.listLots, { query: {} });
  const lotId = lots[0]?.id as number;
  const letter = await owner.get(post.sendOrder, {
    params: { id: open.id },
    body: { to: 'orders@supplier.example', subject: 'An order', text: 'Please send.' },
  });
  const reasonId = (await owner.get(setup.reference)).returnReasons[0]?.id as number;
  const broughtItem = await business.item('SEEN-5');
  await stocked(business, broughtItem, '2');
  const brought = await sold(business, broughtItem, '2');
  await owner.get(picking.pick, { body: pickBody(business, brought, '2') });
  await owner.get(shipping.dispatch, { body: { orderId: brought.id, lines: [{ lineId: brought.lineId, quantity: '2' }] } });
  const back = await owner.get(returns.createReturn, {
    body: {
      customerId: business.customerId,
      siteId,
      cameOn: '2026-03-10',
      lines: [{ salesLineId: brought.lineId, itemId: broughtItem, quantity: '1', condition: 'shelf', binId, reasonId }],
    },
  });
  const came = { number: back.number ?? '' };
  const movedItem = await business.item('SEEN-6');
  await stocked(business, movedItem, '2');
  const sheet = await owner.get(counts.createCount, { body: { siteId, plan: {} } });
  await owner.get(counts.enterCount, { params: { id: sheet.id, placeId: binId }, body: { entries: [{ itemId, quantity: '0', way: 'typed' }] } });
  const shelfItem = await business.item('SEEN-7');
  await stocked(business, shelfItem, '2');
  const { id: thirdSiteId } = await owner.get(setup.createSite, { body: { code: 'SHED', name: 'Shed' } });
  const sent = await owner.get(transfers.createTransfer, {
    body: { fromSiteId: siteId, toSiteId: thirdSiteId, sendBy: '2026-03-12', lines: [{ itemId: movedItem, quantity: '2' }] },
  });
  await owner.get(stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId: shelfItem, binId, quantity: '1' }] } });
  const lentItem = await business.item('SEEN-8');
  await stocked(business, lentItem, '2');
  const holder = await owner.get(loans.createHolder, { body: { name: 'Ridge apiary', sort: 'place' } });
  const lent = await owner.get(loans.lend, { body: { holderId: holder.id, dueOn: '2026-03-20', lines: [{ itemId: lentItem, binId, quantity: '1' }] } });
  const loanId = lent.id as number;
  const ownerId = (await owner.get(people.me, {})).id;
  const remind = { loanId, about: 'loan' as const, days: 3, personIds: [ownerId] };
  const { id: reminderId } = await owner.get(reminders.setReminder, { body: remind });
  marks = new RegExp(`Barn|\\bA-1\\b|${[received, open, sale, boxed, short, brought, came, sent, sheet, lent].map(({ number }) => number).join('|')}|WO-\\d+`);
  const of = (id: number) => ({ params: { id } });
  const madeItem = await business.item('SEEN-9');
  await owner.get(making.createBom, { body: { itemId: madeItem, startsOn: '2026-03-01', parts: [{ itemId, quantity: '2' }] } });
  const partItem = await business.item('SEEN-10');
  await stocked(business, partItem, '2');
  const { id: workId } = await owner.get(workOrders.createWorkOrder, {
    body: {
      itemId: madeItem,
      siteId,
      quantity: '1',
      startsOn: '2026-03-11',
      dueOn: '2026-03-13',
      components: [{ itemId: partItem, quantity: '1' }],
      release: true,
    },
  });
  const passed = await owner.get(workOrders.createWorkOrder, {
    body: {
      itemId: madeItem,
      siteId,
      quantity: '1',
      startsOn: '2026-03-11',
      dueOn: '2026-03-13',
      components: [{ itemId: partItem, quantity: '1' }],
      release: true,
    },
  });
  const { lines: worked, products } = await owner.get(workOrders.getWorkOrder, of(passed.id as number));
  await owner.get(records.recordWork, {
    ...of(passed.id as number),
    body: {
      version: 1,
      used: [{ lineId: worked[0]?.id as number, quantity: '1' }],
      made: [{ lineId: products[0]?.id as number, quantity: '1' }],
      untakenReason: 'found on the bench',
      otherCost: true,
    },
  });
  const apart = await owner.get(takingApart.takeApart, {
    body: { itemId: madeItem, binId: products[0]?.binId as number, quantity: '1', parts: [{ itemId: partItem, planned: '1', quantity: '1' }] },
  });
  const unitId = (await owner.get(setup.reference)).units[0]?.id as number;
  const family = await owner.get(families.createFamily, {
    body: {
      name: 'Lid',
      code: 'LID',
      unitId,
      skuPattern: 'LID-{Colour}',
      axes: [{ name: 'Colour', values: [{ name: 'Gold', code: 'GOLD' }] }],
      members: [{ values: ['Gold'], sku: 'LID-GOLD', opening: [{ siteId, quantity: '7', unitValue: '1' }] }],
    },
  });
  things = [
    [inbound.getPurchase, of(open.id)],
    [receiving.returnable, of(received.id)],
    [outbound.getSale, of(sale.id)],
    [picking.pickList, of(sale.id)],
    [picking.pickPaper, of(sale.id)],
    [picking.roundPaper, of(round.id)],
    [shipping.getPacking, of(boxed.id)],
    [shipping.carrierOffers, { ...of(boxed.id), body: { parcelIds } }],
    [shipping.printParcels, { ...of(boxed.id), body: { parcelIds, paper: 'label' } }],
    [gaps.lineGap, of(sale.lineId)],
    [picking.pickQueue, { query: { siteId } }],
    [picking.getRound, of(round.id)],
    [gaps.waitingLines, { query: { show: 'short', siteId } }],
    [gaps.waitingInAll, { query: { show: 'short', siteId } }],
    [outbound.availability, { query: { itemId, siteId, quantity: '1' } }],
    [stock.binContents, of(binId)],
    [post.orderLetter, of(open.id)],
    [post.orderPaper, of(open.id)],
    [post.letterFile, of(letter.id)],
    [post.saleLetter, of(sale.id)],
    [post.salePaper, of(sale.id)],
    [ubl.orderUbl, of(sale.id)],
    [ubl.despatchUbl, of(gone.movementId as number)],
    [stock.stockTable, { query: { siteId } }],
    [stock.stockInAll, { query: { siteId } }],
    [stock.pastStock, { query: { siteId, asOf: '2026-03-10' } }],
    [stock.pastInAll, { query: { siteId, asOf: '2026-03-10' } }],
    [stock.pastItem, { params: { id: itemId }, query: { siteId, asOf: '2026-03-10' } }],
    [explain.explained, { params: { id: itemId }, query: { siteId } }],
    [moves.toPutAway, { query: { siteId } }],
    [counts.foreseeCount, { body: { siteId, plan: {} } }],
    [counts.listCounts, { query: { siteId } }],
    [counts.countsInAll, { query: { siteId } }],
    [counts.getCount, of(sheet.id)],
    [counts.countBin, { params: { id: sheet.id, placeId: binId } }],
    [floor.heldCount, of(sheet.id)],
    [floor.heldSite, of(siteId)],
    [counts.reviewCount, { ...of(sheet.id), query: {} }],
    [counts.countAccuracy, { query: { siteId } }],
    [counts.countCalendar, { query: { siteId } }],
    [corrections.correctionReport, { query: { siteId, by: 'site' } }],
    [corrections.correctionsInAll, { query: { siteId } }],
    [stock.itemStock, { params: { id: itemId }, query: { siteId } }],
    [stock.trail, { query: { siteId } }],
    [lotContract.listLots, { query: { siteId } }],
    [lotContract.lotsInAll, { query: { siteId } }],
    [inbound.listPurchases, { query: { siteId } }],
    [inbound.purchasesInAll, { query: { siteId } }],
    [outbound.listSales, { query: { siteId } }],
    [outbound.salesInAll, { query: { siteId } }],
    [returns.getReturn, of(back.id as number)],
    [returns.returnPaper, of(back.id as number)],
    [returns.listReturns, { query: { siteId } }],
    [returns.returnsInAll, { query: { siteId } }],
    [returns.returnReport, { query: { siteId } }],
    [returns.returnReportInAll, { query: { siteId } }],
    [transfers.getTransfer, of(sent.id as number)],
    [transfers.transferPaper, of(sent.id as number)],
    [transfers.transferPickList, of(sent.id as number)],
    [loans.getLoan, of(loanId)],
    [loans.loanPaper, of(loanId)],
    [loans.listLoans, { query: { siteId } }],
    [loans.loansInAll, { query: { siteId } }],
    [loans.canBeLent, { query: { items: String(lentItem), siteId } }],
    [reminders.remindersOf, { query: { loanId } }],
    [reminders.setReminder, { body: remind }],
    [reminders.dropReminder, of(reminderId)],
    [transfers.listTransfers, { query: { siteId } }],
    [transfers.transfersInAll, { query: { siteId } }],
    [transfers.transferProposals, { query: { siteId } }],
    [receiving.receivingDesk, { query: { siteId } }],
    [making.canMakeItem, { ...of(madeItem), query: { siteId } }],
    [making.canMakeAll, { query: { siteId } }],
    [workOrders.listWorkOrders, { query: { siteId } }],
    [workOrders.workOrdersInAll, { query: { siteId } }],
    [workOrders.getWorkOrder, of(workId as number)],
    [workOrders.workPickList, of(workId as number)],
    [workOrders.jobSheet, of(workId as number)],
    [workOrders.jobSheets, { query: { ids: String(workId) } }],
    [workOrders.workPickPapers, { query: { ids: String(workId) } }],
    [workOrders.workTaking, { ...of(workId as number), body: { lines: [] } }],
    [workOrders.workProposal, { query: { itemId: madeItem, siteId, quantity: '1' } }],
    [records.listUntaken, { query: { siteId } }],
    [takingApart.apartProposal, { query: { itemId: madeItem, siteId, quantity: '1' } }],
    [takingApart.listApart, { query: { siteId } }],
    [takingApart.getApart, of(apart.id as number)],
    [planning.topUpList, { query: { siteId } }],
    [planning.topUpFill, { query: { siteId, supplierId: business.supplierId } }],
    [levels.listLevels, { query: { siteId } }],
    [runningLow.listLow, { query: { siteId } }],
    [runningLow.lowInAll, { query: { siteId } }],
    [levels.levelsInAll, { query: { siteId } }],
    [levels.getLevel, { params: { itemId, siteId } }],
    [planning.openCounts, { query: { siteId } }],
    [planning.today, { query: { siteId } }],
    [exchange.exportFile, { params: { list: 'stock' }, body: { fields: 'sku,site,onHand', format: 'csv', siteId } }],
  ] as never;
  lists = [
    [picking.pickQueue, { query: {} }],
    [workOrders.listWorkOrders, { query: {} }],
    [workOrders.workOrdersInAll, { query: {} }],
    [records.listUntaken, { query: {} }],
    [takingApart.listApart, { query: {} }],
    [gaps.waitingLines, { query: { show: 'short' } }],
    [gaps.waitingInAll, { query: { show: 'short' } }],
    [straight.directLines, { query: { orders: String(short.id) } }],
    [catalog.find, { query: { q: received.number } }],
    [catalog.listItems, { query: { q: 'seen', sort: 'onHand' } }],
    [catalog.listItems, { query: { q: 'seen-1', sort: 'best' } }],
    [catalog.listItems, { query: { state: 'low' } }],
    [families.listFamilies, { query: {} }],
    [families.getFamily, of(family.id as number)],
    [floor.whereItLies, of(itemId)],
    [inbound.listPurchases, { query: { show: 'all' } }],
    [inbound.getSupplier, of(business.supplierId)],
    [setup.partyList, { query: { as: 'supplier' } }],
    [setup.partyList, { query: { as: 'customer' } }],
    [catalog.itemsInAll, { query: { q: 'seen-1' } }],
    [catalog.itemsMeant, { body: { codes: ['SEEN-1'] } }],
    [customers.customerItems, of(business.customerId)],
    [customers.customerStanding, of(business.customerId)],
    [returns.listHeld, { query: { customerId: business.customerId } }],
    [returns.listReturns, {}],
    [returns.returnsInAll, {}],
    [returns.returnReport, { query: { by: 'item' } }],
    [returns.returnReportInAll, {}],
    [margin.listMargin, {}],
    [margin.marginInAll, {}],
    [loans.listLoans, { query: { show: 'all' } }],
    [loans.loansInAll, { query: { show: 'all' } }],
    [loans.canBeLent, { query: { items: String(lentItem) } }],
    [loans.listHolders, { query: { show: 'all' } }],
    [loans.holdersInAll, { query: {} }],
    [loans.getHolder, of(holder.id)],
    [loans.holderPaper, of(holder.id)],
    [transfers.listTransfers, {}],
    [transfers.transfersInAll, {}],
    [transfers.transferFigures, { query: { salesLines: String(short.lineId), items: String(movedItem) } }],
    [receiving.receivingDesk, {}],
    [receiving.returnSources, { query: { itemId } }],
    [lotContract.getLot, of(lotId)],
    [stock.itemStock, of(itemId)],
    [lotContract.knownSerials, { body: { itemId: serialItem, codes: ['SER-77'] } }],
    [lotContract.listLots, {}],
    [stock.stockTable, { query: { sort: 'value' } }],
    [stock.stockTable, { query: { sort: 'quarantine', direction: 'down', fromSku: 'seen-1', toSku: 'seen-2' } }],
    [stock.pastStock, { query: { asOf: '2026-03-10' } }],
    [stock.pastInAll, { query: { asOf: '2026-03-10' } }],
    [stock.pastItem, { ...of(itemId), query: { asOf: '2026-03-10' } }],
    [moves.toPutAway, {}],
    [counts.listCounts, { query: { show: 'all' } }],
    [counts.countsInAll, { query: { show: 'all' } }],
    [counts.countAccuracy, {}],
    [counts.countCalendar, {}],
    [corrections.correctionReport, { query: { by: 'item' } }],
    [corrections.correctionsInAll, {}],
    [explain.explained, of(itemId)],
    [explain.explained, of(movedItem)],
    [stock.stockTable, { query: { state: 'low' } }],
    [stock.stockTable, { query: { state: 'in-stock', sort: 'free', direction: 'down' } }],
    [lotContract.traceFile, of(lotId)],
    [lotContract.traceLot, of(lotId)],
    [recalls.recallList, of(lotId)],
    [stock.trail, { query: { itemId } }],
    [outbound.listSales, { query: { show: 'all' } }],
    [planning.openCounts, {}],
    [planning.today, {}],
    [planning.topUpList, {}],
    [levels.listLevels, {}],
    [levels.levelsInAll, {}],
    [runningLow.listLow, {}],
    [runningLow.lowInAll, {}],
    [post.listLetters, {}],
    ...(['stock', 'purchases', 'sales', 'trail', 'lots', 'policies', 'items'] as const).map((list) => [
      exchange.exportFile,
      {
        params: { list },
        body: {
          fields: fieldsOf[list],
          format: 'csv',
        },
      },
    ]),
  ] as never;
  elsewhere = await ownerAt('elsewhere', [business.otherSiteId]);
  everywhere = await ownerAt('everywhere', [business.siteId, business.otherSiteId, thirdSiteId]);
});
afterAll(() => business.close());

const shown = endpoints.filter(({ method, reads, right }) => right !== null && rightScope[right] === 'site' && (method === 'GET' || reads || right === 'look'));
const nobody = () => new Caller(business.base, '');

test('nobody is shown, or does, anything that needs a right', async () => {
  for (const endpoint of endpoints.filter(({ right }) => right !== null)) {
    const { status } = await nobody().ask(endpoint, { params: { id: 1 } } as never);
    expect([endpoint.path, status]).toEqual([endpoint.path, 401]);
  }
});

test('an onlooker changes nothing', async () => {
  const onlooker = await business.as('Onlooker');
  for (const endpoint of endpoints.filter(({ method, reads, right }) => method !== 'GET' && !reads && right !== null && right !== 'look')) {
    const { status, problem } = await onlooker.ask(endpoint, { params: { id: 1 } } as never);
    expect([endpoint.path, status, problem.type]).toEqual([endpoint.path, 403, 'no-right']);
  }
});

test('what is the company’s is not shown to whom may look at one site', async () => {
  for (const endpoint of shown.filter(({ seenBy }) => seenBy === 'company')) {
    const { status, problem } = await elsewhere.ask(endpoint, {
      params: { id: 1 },
      query: { partyId: 1, format: 'csv', itemIds: '1', movementIds: '1' },
    } as never);
    expect([endpoint.path, status, problem.type]).toEqual([endpoint.path, 403, 'no-right']);
  }
  const bills = { params: { list: 'bills' }, body: { fields: 'number', format: 'csv' } } as const;
  expect((await elsewhere.ask(exchange.exportFile, bills)).status).toBe(403);
});

describe('what is of a site', () => {
  test('is all tried here', () => {
    const tried = new Set([...things, ...lists].map(([endpoint]) => endpoint));
    expect(shown.filter((endpoint) => endpoint.seenBy === 'sites' && !tried.has(endpoint)).map(({ path }) => path)).toEqual([]);
  });

  test('is refused to whom may look only at another', async () => {
    for (const [endpoint, asked] of things) {
      const { status, problem } = await elsewhere.ask(endpoint, asked);
      expect([endpoint.path, status, problem.type]).toEqual([endpoint.path, 403, 'no-right']);
      expect([endpoint.path, (await everywhere.ask(endpoint, asked)).status]).toEqual([endpoint.path, 200]);
    }
  });

  test('is left out of lists of whom may look only at another, and its sums count only what may be seen', async () => {
    for (const [endpoint, asked] of lists) {
      const { status, data } = await elsewhere.ask(endpoint, asked);
      expect([endpoint.path, status]).toEqual([endpoint.path, 200]);
      expect([endpoint.path, marks.exec(JSON.stringify(data))?.[0] ?? '']).toEqual([endpoint.path, '']);
    }
    const file = async (list: keyof typeof fieldsOf) => {
      const { data } = await elsewhere.ask(exchange.exportFile, { params: { list }, body: { fields: fieldsOf[list], format: 'csv' } } as never);
      return String(data).trim().split(/\r?\n/).slice(1);
    };
    for (const list of ['stock', 'purchases', 'sales', 'trail', 'lots', 'policies'] as const) expect([list, await file(list)]).toEqual([list, []]);
    expect((await file('items')).every((line) => /[,;]0[,;]0$/.test(line))).toBe(true);
    for (const as of ['supplier', 'customer'] as const)
      expect((await elsewhere.get(setup.partyList, { query: { as } })).rows.filter(({ openOrders, lastOn }) => openOrders > 0 || lastOn !== null)).toEqual([]);
    expect((await elsewhere.get(lotContract.listLots, {})).rows).toEqual([]);
    expect(await elsewhere.get(lotContract.lotsInAll, {})).toEqual({ count: 0 });
    expect(await elsewhere.get(inbound.purchasesInAll, { query: { show: 'all' } })).toEqual({ count: 0, amounts: [] });
    expect(await elsewhere.get(outbound.salesInAll, { query: { show: 'all' } })).toEqual({ count: 0, amounts: [] });
    expect((await elsewhere.get(stock.stockInAll, {})).value).toBe('0.00');
    expect((await elsewhere.get(stock.trail, {})).rows).toEqual([]);
    const [row] = (await elsewhere.get(stock.stockTable, { query: { q: 'seen-1' } })).rows;
    expect(row).toMatchObject({ onHand: '0', reserved: '0', free: '0', onOrder: '0', short: '0', value: '0.00' });
    expect((await elsewhere.get(catalog.listItems, { query: { q: 'seen-1' } })).rows[0]).toMatchObject({ onHand: '0', free: '0' });
    expect(await elsewhere.get(inbound.getSupplier, { params: { id: business.supplierId } })).toMatchObject({ owed: null, overdue: null, orders: [] });
  });

  test('is the same for whom may look at each site as for whom may look at the whole company', async () => {
    // A paper is made anew each time.
    for (const [endpoint, asked] of lists.filter(([{ file }]) => file !== 'application/pdf')) {
      const [mine, owners] = [await everywhere.ask(endpoint, asked), await business.owner.ask(endpoint, asked)];
      const unowed = (data: unknown) => JSON.stringify(data, (key, value: unknown) => (['owed', 'overdue', 'ordered', 'limit'].includes(key) ? null : value));
      expect([endpoint.path, unowed(mine.data)]).toEqual([endpoint.path, unowed(owners.data)]);
      if (!/export|file|lots|serials|in-all|accuracy/.test(endpoint.path))
        expect([endpoint.path, /Barn|SEEN|PO-|SO-|Lid|comingIn|"openOrders":[1-3]/.test(JSON.stringify(owners.data))]).toEqual([endpoint.path, true]);
    }
  });
});

test('how much is free at other sites is seen by all, unless the business says no', async () => {
  const asked = { query: { itemId, siteId: business.otherSiteId, quantity: '1' } };
  const free = async (caller: Caller) => (await caller.get(outbound.availability, asked)).elsewhere.map((one) => one.free);
  expect(await free(elsewhere)).toEqual(['8']);
  await business.owner.get(setup.editCompany, { body: { freeSeenElsewhere: false } });
  expect([await free(elsewhere), await free(everywhere), await free(business.owner)]).toEqual([[], ['8'], ['8']]);
});

test('an answer about sites whose service never asked at which is not given', async () => {
  const by = { id: 1, name: 'Owner', email: 'owner@test.example', grants: [{ siteId: null, rights: ['look' as const] }] };
  const call = { by, now: business.clock.now, params: {}, query: {}, body: null, key: null };
  const careless: Service<Endpoint> = () => Promise.resolve({ rows: [], next: null });
  await expect(answerTo({ pool: business.pool }, stock.trail, careless, call as never)).rejects.toThrow('never asked at which');
});
