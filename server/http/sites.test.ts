import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { Asked, Endpoint } from '@larder/contract/endpoint';
import * as counts from '@larder/contract/counts';
import * as inbound from '@larder/contract/inbound';
import { endpoints } from '@larder/contract/index';
import * as straight from '@larder/contract/direct';
import * as gaps from '@larder/contract/gaps';
import * as making from '@larder/contract/making';
import * as loans from '@larder/contract/loans';
import * as lotContract from '@larder/contract/lots';
import * as recalls from '@larder/contract/recalls';
import * as moves from '@larder/contract/moves';
import * as outbound from '@larder/contract/outbound';
import * as shipping from '@larder/contract/shipping';
import * as carriers from '@larder/contract/carriers';
import * as planning from '@larder/contract/planning';
import * as post from '@larder/contract/post';
import * as receiving from '@larder/contract/receiving';
import { firstTemplates } from '@larder/core/post/template';
import { rightScope } from '@larder/contract/rights';
import * as picking from '@larder/contract/picking';
import * as returns from '@larder/contract/returns';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import * as takingApart from '@larder/contract/takingApart';
import * as workOrders from '@larder/contract/workOrders';
import * as records from '@larder/contract/workRecords';
import { eq } from 'drizzle-orm';
import { transaction } from '../db/database';
import { addPerson } from '../db/found';
import { openBusiness, signIn, type Business, type Caller } from '../testing/business';
import { ordered, pickBody, sold, stocked } from '../testing/trade';
import { answerTo, type Service } from './route';
import { category, roleGrant } from '../db/schema/index';

/** Whoever may do everything at one site may do nothing at another, and nothing that is the company's. */
let business: Business;
let elsewhere: Caller;
let requests: Map<Endpoint, Asked<Endpoint>>;
beforeAll(async () => {
  business = await openBusiness();
  const itemId = await business.item('SITE-1');
  const { order: received, movementId } = await stocked(business, itemId, '10');
  const open = await ordered(business, itemId, '5');
  const draft = await business.owner.get(inbound.createPurchase, {
    body: { supplierId: business.supplierId, siteId: business.siteId, expectedOn: null, lines: [{ itemId, quantity: '1', price: '1' }] },
  });
  const sale = await sold(business, itemId, '2');
  const scarce = await business.item('SITE-2');
  await stocked(business, scarce, '1');
  const [holder, lacking] = [await sold(business, scarce, '1'), await sold(business, scarce, '3')];
  const quote = await business.owner.get(outbound.createSale, {
    body: { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-12', lines: [{ itemId, quantity: '1', price: '5.00' }] },
  });
  const direct = await business.owner.get(inbound.createPurchase, {
    body: {
      supplierId: business.supplierId,
      siteId: business.siteId,
      shipsToId: business.customerId,
      expectedOn: null,
      lines: [{ itemId, quantity: '1', price: '1' }],
    },
  });
  await business.owner.get(inbound.decidePurchase, { params: { id: direct.id }, body: { decision: 'place', version: direct.version } });
  const letter = await business.owner.get(post.sendOrder, {
    params: { id: open.id },
    body: { to: 'orders@supplier.example', subject: 'An order', text: 'Please send.' },
  });
  const another = await sold(business, itemId, '1');
  const boxed = await sold(business, itemId, '3');
  await business.owner.get(picking.pick, { body: pickBody(business, boxed, '3') });
  const carrierId = (await business.owner.get(carriers.createCarrier, { body: { name: 'Cart', partyId: business.supplierId } })).id;
  const parcel = { contents: [{ lineId: boxed.lineId, quantity: '1' }] };
  const { parcels } = await business.owner.get(shipping.packOrder, {
    params: { id: boxed.id },
    body: { siteId: business.siteId, seen: [], parcels: [parcel, parcel] },
  });
  const { id: thirdSiteId } = await business.owner.get(setup.createSite, { body: { code: 'SHED', name: 'Shed' } });
  const movable = await business.item('SITE-3');
  await stocked(business, movable, '20');
  const transferForm = { fromSiteId: business.siteId, toSiteId: thirdSiteId, sendBy: '2026-03-12', lines: [{ itemId: movable, quantity: '2' }] };
  const transferred = async (sends: boolean) => {
    const id = (await business.owner.get(transfers.createTransfer, { body: transferForm })).id as number;
    const read = () => business.owner.get(transfers.getTransfer, { params: { id } });
    const lineId = (await read()).lines[0]?.id as number;
    if (sends)
      await business.owner.get(transfers.sendTransfer, { params: { id }, body: { lines: [{ lineId, binId: business.bins[0] as number, quantity: '1' }] } });
    return { id, lineId, version: (await read()).version };
  };
  const [toPick, toSend, toChange, toCancel, toLose] = [
    await transferred(false),
    await transferred(false),
    await transferred(false),
    await transferred(false),
    await transferred(true),
  ];
  const [lentItem, serialItem] = [await business.item('SITE-5'), await business.item('SITE-6', { tracking: 'serial' })];
  await stocked(business, lentItem, '9');
  const borrower = await business.owner.get(loans.createHolder, { body: { name: 'Ridge apiary', sort: 'place' } });
  const lines = [{ itemId: lentItem, binId: business.bins[0] as number, quantity: '4' }];
  const lent = await business.owner.get(loans.lend, { body: { holderId: borrower.id, lines } });
  const loan = await business.owner.get(loans.getLoan, { params: { id: lent.id as number } });
  const soldLot = await business.item('SITE-7', { tracking: 'lot' });
  const lots = [{ code: 'SITE-LOT', quantity: '1' }];
  await business.owner.get(stock.openStock, { body: { lines: [{ itemId: soldLot, binId: business.bins[0], quantity: '1', unitValue: '1', lots }] } as never });
  const [lot] = (await business.owner.get(lotContract.listLots, { query: { q: 'SITE-LOT' } })).rows;
  await business.owner.get(loans.lend, {
    body: { holderId: borrower.id, lines: [{ itemId: soldLot, lotId: lot?.id ?? 0, binId: business.bins[0] as number, quantity: '1' }] },
  });
  const to = [{ partyId: borrower.id, to: 'ridge@larkmoor.example' }];
  await business.owner.get(recalls.sendRecall, { params: { id: lot?.id ?? 0 }, body: { ...firstTemplates.recall, to } });
  const recallLetter = (await business.owner.get(post.listLetters, { query: { q: 'SITE-LOT' } })).rows[0]?.id as number;
  const [madeItem, partItem] = [await business.item('SITE-8'), await business.item('SITE-9')];
  await stocked(business, partItem, '40');
  await business.owner.get(making.createBom, { body: { itemId: madeItem, startsOn: '2026-03-01', parts: [{ itemId: partItem, quantity: '1' }] } });
  const workForm = { itemId: madeItem, siteId: business.siteId, quantity: '2', startsOn: '2026-03-11', dueOn: '2026-03-13', release: true };
  const worked = async (takes: boolean, part = {}) => {
    const id = (await business.owner.get(workOrders.createWorkOrder, { body: { ...workForm, ...part } })).id as number;
    const read = () => business.owner.get(workOrders.getWorkOrder, { params: { id } });
    const lineId = (await read()).lines[0]?.id as number;
    if (takes)
      await business.owner.get(workOrders.pickWorkOrder, { params: { id }, body: { lines: [{ lineId, binId: business.bins[0] as number, quantity: '2' }] } });
    const { version, products } = await read();
    return { id, lineId, version, productId: products[0]?.id as number };
  };
  const [toRelease, toHold, toStop, toReopen, toAlter, toMove, toTake, toAdd, toBring, toRecord, toPass] = [
    await worked(false, { release: false }),
    await worked(false),
    await worked(false),
    await worked(false),
    await worked(false),
    await worked(false),
    await worked(false),
    await worked(false),
    await worked(true),
    await worked(true),
    await worked(true),
  ];
  await business.owner.get(workOrders.cancelWorkOrder, { params: { id: toReopen.id }, body: { version: toReopen.version } });
  const made = ({ lineId, productId }: typeof toPass, used: string) => ({
    used: [{ lineId, quantity: used }],
    made: [{ lineId: productId, quantity: '2' }],
    otherCost: true,
  });
  await business.owner.get(records.recordWork, {
    params: { id: toPass.id },
    body: { version: toPass.version, ...made(toPass, '4'), untakenReason: 'found on the bench' },
  });
  const passed = (await business.owner.get(records.listUntaken)).rows[0]?.id as number;
  const countedItem = await business.item('SITE-4');
  const planned = () => business.owner.get(counts.createCount, { body: { siteId: business.siteId, plan: {} } });
  const [sheet, otherSheet] = [await planned(), await planned()];
  await business.owner.get(counts.enterCount, {
    params: { id: otherSheet.id, placeId: business.bins[1] as number },
    body: { entries: [{ itemId: countedItem, quantity: '0', way: 'typed' }] },
  });
  const otherLine = (await business.owner.get(counts.reviewCount, { params: { id: otherSheet.id }, query: { show: 'all' } })).rows[0]?.id as number;
  const [inParcel, inShipment] = parcels.map(({ id }) => id);
  await business.pool.query("UPDATE party SET address = 'Copse Lane' WHERE id = $1", [business.customerId]);
  const booking = { parcelIds: [inShipment], carrierId };
  const shipment = await business.owner.get(shipping.bookShipment, { params: { id: boxed.id }, body: booking as never });
  await business.owner.get(shipping.dispatch, { body: { orderId: boxed.id, lines: [{ lineId: boxed.lineId, quantity: '1' }], way: 'van' } });
  const { shipments } = await business.owner.get(shipping.getPacking, { params: { id: boxed.id } });
  const reasonId = (await business.owner.get(setup.reference)).returnReasons[0]?.id as number;
  const back = {
    customerId: business.customerId,
    siteId: business.siteId,
    cameOn: '2026-03-10',
    lines: [{ salesLineId: boxed.lineId, itemId, quantity: '1', condition: 'shelf' as const, binId: business.bins[0] as number, reasonId }],
  };
  const announced = { body: { ...back, receive: false } };
  const [expected, unwanted] = [await business.owner.get(returns.createReturn, announced), await business.owner.get(returns.createReturn, announced)];
  const saleLetter = await business.owner.get(post.sendSale, {
    params: { id: sale.id },
    body: { to: 'buyer@customer.example', subject: 'Your order', text: 'Thank you.' },
  });
  const round = await business.owner.get(picking.startRound, { body: { siteId: business.siteId, orderIds: [sale.id] } });
  const binId = business.bins[0] as number;
  const purchase = { supplierId: business.supplierId, siteId: business.siteId, expectedOn: null, lines: [{ itemId, quantity: '1', price: '1' }] };
  const salesForm = { customerId: business.customerId, siteId: business.siteId, shipBy: '2026-03-12', lines: [{ itemId, quantity: '1', price: '5.00' }] };
  const incoming = [{ itemId, binId, quantity: '1', unitValue: '1' }];
  const list: [Endpoint, object][] = [
    [inbound.createPurchase, { body: purchase }],
    [inbound.editPurchase, { params: { id: draft.id }, body: { ...purchase, version: draft.version } }],
    [inbound.decidePurchase, { params: { id: draft.id }, body: { decision: 'place', version: draft.version } }],
    [
      inbound.amendPurchase,
      { params: { id: open.id }, body: { expectedOn: '2026-03-20', version: open.version, lines: [{ lineId: open.lineId, expectedOn: null, callOff: '1' }] } },
    ],
    [inbound.recordDirect, { params: { id: direct.id }, body: { lines: [{ lineId: direct.lines[0]?.id, quantity: '1' }] } }],
    [
      receiving.changeDesk,
      { body: { changes: [{ key: randomUUID(), what: 'scan', said: '', parts: [{ lineId: open.lineId, binId, quantity: '1', lots: [] }] }] } },
    ],
    [receiving.receive, { body: { lines: [{ lineId: open.lineId, quantity: '1', binId }] } }],
    [receiving.receiveUnordered, { body: { lines: incoming } }],
    [
      receiving.returnGoods,
      { body: { orderId: received.id, lines: [{ purchaseLineId: received.lineId, binId, quantity: '1' }], note: 'damaged', then: 'credited' } },
    ],
    [stock.correct, { body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId, quantity: '1' }] } }],
    [stock.openStock, { body: { lines: incoming } }],
    [stock.undo, { body: { movementId } }],
    [outbound.createSale, { body: salesForm }],
    [outbound.editSale, { params: { id: quote.id }, body: { ...salesForm, version: quote.version } }],
    [outbound.splitSale, { params: { id: quote.id }, body: { version: quote.version, lines: [] } }],
    [outbound.confirmSale, { params: { id: quote.id }, body: { version: quote.version } }],
    [outbound.amendSale, { params: { id: sale.id }, body: { version: sale.version, shipBy: '2026-03-12', lines: [] } }],
    [gaps.holdStock, { params: { id: lacking.lineId }, body: { from: [{ lineId: holder.lineId, quantity: '1' }] } }],
    [picking.startRound, { body: { siteId: business.siteId, orderIds: [another.id] } }],
    [picking.pickRound, { params: { id: round.id }, body: { lines: [{ lineId: sale.lineId, binId, quantity: '1' }] } }],
    [picking.endRound, { params: { id: round.id }, body: {} }],
    [gaps.swapLine, { params: { id: lacking.lineId }, body: { itemId, quantity: '1' } }],
    [gaps.standBack, { params: { id: lacking.lineId }, body: { back: true } }],
    [straight.orderDirect, { body: { lines: [{ lineId: lacking.lineId, quantity: '1', supplierId: business.supplierId, price: '1' }] } }],
    [straight.decideDirect, { params: { id: lacking.lineId }, body: { quantity: '0' } }],
    [gaps.promiseLine, { params: { id: sale.lineId }, body: { promisedOn: null } }],
    [outbound.endSale, { params: { id: quote.id }, body: { decision: 'cancel', version: quote.version } }],
    [picking.pick, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, binId, quantity: '1' }] } }],
    [shipping.bookShipment, { params: { id: boxed.id }, body: { parcelIds: [inParcel], carrierId } }],
    [shipping.packOrder, { params: { id: boxed.id }, body: { siteId: business.siteId, seen: [], parcels: [] } }],
    [shipping.askAgain, { params: { id: shipment.id }, body: {} }],
    [shipping.cancelShipment, { params: { id: shipment.id }, body: {} }],
    [shipping.noteTaken, { params: { id: shipments.at(-1)?.id }, body: {} }],
    [shipping.dispatch, { body: { orderId: sale.id, lines: [{ lineId: sale.lineId, quantity: '1' }] } }],
    [counts.createCount, { body: { siteId: business.siteId, plan: {} } }],
    [counts.takeBin, { params: { id: sheet.id, placeId: binId }, body: {} }],
    [counts.enterCount, { params: { id: sheet.id, placeId: binId }, body: { entries: [{ itemId: countedItem, quantity: '5', way: 'typed' }] } }],
    [counts.nameLot, { params: { id: sheet.id, placeId: binId }, body: { itemId: serialItem, code: 'FOUND-1' } }],
    [counts.leaveBin, { params: { id: sheet.id, placeId: binId } }],
    [counts.finishBin, { params: { id: sheet.id, placeId: binId }, body: {} }],
    [counts.askRecount, { params: { id: otherSheet.id }, body: { lineIds: [otherLine] } }],
    [counts.postCount, { params: { id: sheet.id }, body: { reasonId: business.reasonId } }],
    [counts.closeCount, { params: { id: otherSheet.id } }],
    [moves.moveGoods, { body: { note: '', lines: [{ itemId, quantity: '1', fromBinId: binId, toBinId: business.bins[1] }] } }],
    [loans.lend, { body: { holderId: borrower.id, lines: [{ itemId: lentItem, binId, quantity: '1' }] } }],
    [loans.changeLoan, { params: { id: loan.id }, body: { version: loan.version, dueOn: null, note: 'until autumn' } }],
    [loans.bringBack, { body: { lines: [{ lineId: loan.lineRows[0]?.id, quantity: '1', binId }] } }],
    [loans.loseLoan, { body: { reasonId: business.reasonId, lines: [{ lineId: loan.lineRows[0]?.id, quantity: '1' }] } }],
    [transfers.createTransfer, { body: transferForm }],
    [transfers.changeTransfer, { params: { id: toChange.id }, body: { version: toChange.version, sendBy: '2026-03-13', lines: [] } }],
    [transfers.cancelTransfer, { params: { id: toCancel.id }, body: { version: toCancel.version } }],
    [transfers.pickTransfer, { params: { id: toPick.id }, body: { lines: [{ lineId: toPick.lineId, binId, quantity: '1' }] } }],
    [transfers.sendTransfer, { params: { id: toSend.id }, body: { lines: [{ lineId: toSend.lineId, binId, quantity: '1' }] } }],
    [transfers.loseTransfer, { params: { id: toLose.id }, body: { reasonId: business.reasonId, lines: [{ lineId: toLose.lineId, quantity: '1' }] } }],
    [workOrders.createWorkOrder, { body: workForm }],
    [workOrders.releaseWorkOrder, { params: { id: toRelease.id }, body: { version: toRelease.version } }],
    [workOrders.holdWorkOrder, { params: { id: toHold.id }, body: { version: toHold.version } }],
    [workOrders.cancelWorkOrder, { params: { id: toStop.id }, body: { version: toStop.version } }],
    [workOrders.reopenWorkOrder, { params: { id: toReopen.id }, body: { version: toReopen.version + 1 } }],
    [
      workOrders.changeWorkOrder,
      {
        params: { id: toAlter.id },
        body: {
          version: toAlter.version,
          quantity: '3',
          startsOn: '2026-03-11',
          dueOn: '2026-03-14',
          components: [{ itemId: partItem, quantity: '3' }],
          costs: [],
        },
      },
    ],
    [workOrders.moveWorkOrder, { params: { id: toMove.id }, body: { version: toMove.version, startsOn: '2026-03-18' } }],
    [workOrders.pickWorkOrder, { params: { id: toTake.id }, body: { lines: [{ lineId: toTake.lineId, binId, quantity: '1' }] } }],
    [workOrders.addComponent, { params: { id: toAdd.id }, body: { itemId, quantity: '1' } }],
    [workOrders.bringBack, { params: { id: toBring.id }, body: { lines: [{ lineId: toBring.lineId, binId, quantity: '1' }] } }],
    [records.recordWork, { params: { id: toRecord.id }, body: { version: toRecord.version, ...made(toRecord, '2') } }],
    [takingApart.takeApart, { body: { itemId: partItem, binId, quantity: '1', parts: [{ itemId: countedItem, planned: '1', quantity: '1' }] } }],
    [records.recordUntaken, { params: { id: passed }, body: { lines: [{ binId, quantity: '1' }] } }],
    [records.giveUpUntaken, { params: { id: passed }, body: { reason: 'not to be found' } }],
    [returns.createReturn, { body: { ...back, receive: false } }],
    [returns.editReturn, { params: { id: expected.id }, body: { ...back, version: 1 } }],
    [returns.discardReturn, { params: { id: unwanted.id }, body: { version: 1, discarded: true } }],
    [planning.orderTopUp, { body: { rows: [{ supplierId: business.supplierId, siteId: business.siteId, itemId, quantity: '1' }] } }],
    [planning.putOffTopUp, { body: { siteId: business.siteId, itemId, until: '2027-01-04' } }],
    [post.sendOrder, { params: { id: open.id }, body: { to: 'orders@supplier.example', subject: 'An order', text: 'Please send.' } }],
    [post.sendAgain, { params: { id: letter.id } }],
    [post.sendSaleAgain, { params: { id: saleLetter.id } }],
    [post.sendRecallAgain, { params: { id: recallLetter } }],
    [recalls.keepRecallTemplate, { body: firstTemplates.recall }],
    [post.keepTemplate, { body: firstTemplates['purchase order'] }],
    [post.sendSale, { params: { id: sale.id }, body: { to: 'buyer@customer.example', subject: 'Your order', text: 'Thank you.' } }],
    [post.keepSaleTemplate, { params: { kind: 'quote' }, body: firstTemplates.quote }],
  ];
  requests = new Map(list as [Endpoint, Asked<Endpoint>][]);
  await transaction(business.pool, 'write', async (tx) => {
    const personId = await addPerson(tx, { name: 'Elsewhere', email: 'elsewhere@test.example', password: 'only for tests' }, 'Owner');
    await tx.db.update(roleGrant).set({ siteId: business.otherSiteId }).where(eq(roleGrant.personId, personId));
  });
  elsewhere = await signIn(business.base, 'elsewhere@test.example');
});
afterAll(() => business.close());

const writes = endpoints.filter(({ method, reads, right }) => method !== 'GET' && !reads && right !== null && right !== 'look');

/** A holder is of no site: whoever may lend anywhere says who they are. Nor is a lot: whoever may not be seen is not written to. */
const ofNoSite: readonly Endpoint[] = [loans.createHolder, loans.editHolder, loans.becomeHolder, recalls.sendRecall];

test('every write with a right that is held at sites is tried', () => {
  const held = writes.filter((endpoint) => endpoint.right !== null && rightScope[endpoint.right] === 'site' && !ofNoSite.includes(endpoint));
  expect(held.filter((endpoint) => !requests.has(endpoint)).map(({ path }) => path)).toEqual([]);
  expect([...requests.keys()].filter((endpoint) => !held.includes(endpoint)).map(({ path }) => path)).toEqual([]);
});

test('the right role at another site does nothing here, and nothing is written', async () => {
  const written = async () =>
    (
      await business.pool.query(
        'SELECT (SELECT count(*) FROM movement) AS movements, (SELECT count(*) FROM document_line) AS lines, (SELECT count(*) FROM letter) AS letters, (SELECT count(*) FROM letter_template) AS templates, (SELECT coalesce(sum(version), 0) FROM sales_order) AS sales, (SELECT coalesce(sum(version), 0) FROM purchase_order) AS purchases',
      )
    ).rows;
  const before = await written();
  for (const [endpoint, asked] of requests) {
    const { status, problem } = await elsewhere.ask(endpoint, asked);
    expect([endpoint.path, status, problem.type]).toEqual([endpoint.path, 403, 'no-right']);
  }
  expect(await written()).toEqual(before);
});

test('what is the company’s needs a grant for the company', async () => {
  for (const endpoint of writes.filter(({ right }) => right !== null && rightScope[right] === 'company')) {
    const { status, problem } = await elsewhere.ask(endpoint, { params: { id: 1 } } as never);
    expect([endpoint.path, status, problem.type]).toEqual([endpoint.path, 403, 'no-right']);
  }
});

test('with the right at the site, each of them is done', async () => {
  const once = [stock.undo, outbound.endSale, inbound.editPurchase, outbound.editSale, outbound.splitSale];
  for (const [endpoint, asked] of requests) {
    if (once.includes(endpoint as never)) continue;
    const { status, problem } = await business.owner.ask(endpoint, asked);
    expect([endpoint.path, status, status === 200 ? '' : problem.title]).toEqual([endpoint.path, 200, '']);
  }
});

test('what has no site at either end is undone by who has the right where its document is', async () => {
  const { rows } = await business.pool.query<{ id: number }>("SELECT max(id) AS id FROM movement WHERE kind = 'drop-shipment'");
  const body = { movementId: rows[0]?.id as number };
  expect(await elsewhere.ask(stock.undo, { body })).toMatchObject({ status: 403, problem: { type: 'no-right' } });
  expect((await business.owner.ask(stock.undo, { body })).status).toBe(200);
});

test('a write that needs a right at a site and never asks at which is not kept', async () => {
  const by = { id: 1, name: 'Owner', email: 'owner@test.example', grants: [{ siteId: null, rights: ['stock.correct' as const] }] };
  const body = Buffer.from(JSON.stringify({ way: 'plus-or-minus', reasonId: 1, lines: [{ itemId: 1, binId: 1, quantity: '1' }] }));
  const call = { by, now: business.clock.now, params: {}, query: {}, body, key: randomUUID() };
  const careless: Service<Endpoint> = async ({ tx }) => {
    await tx.db.insert(category).values({ name: 'never asked' });
    return {};
  };
  await expect(answerTo({ pool: business.pool }, stock.correct, careless, call)).rejects.toThrow('never asked at which');
  expect((await business.pool.query("SELECT FROM category WHERE name = 'never asked'")).rowCount).toBe(0);
});
