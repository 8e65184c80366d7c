import { afterAll, beforeAll, expect, test } from '@jest/globals';
import * as counts from '@larder/contract/counts';
import * as loans from '@larder/contract/loans';
import * as making from '@larder/contract/making';
import * as moves from '@larder/contract/moves';
import * as receiving from '@larder/contract/receiving';
import * as setup from '@larder/contract/setup';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import * as workOrders from '@larder/contract/workOrders';
import * as records from '@larder/contract/workRecords';
import { openBusiness, type Business } from '../../testing/business';
import { stocked } from '../../testing/trade';

/** Many people at once on the same few goods: moved, sent, lent, brought back and counted. Each is told what they did, and nothing is there twice. */
let business: Business;
let far: number;
let holderId: number;
beforeAll(async () => {
  business = await openBusiness();
  far = (await business.owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['F-1'] } })).rows[0]?.id as number;
  holderId = (await business.owner.get(loans.createHolder, { body: { name: 'Ridge apiary', sort: 'place' } })).id;
});
afterAll(async () => {
  expect(await business.broken()).toEqual([]);
  await business.close();
});
const bin = (at = 0) => business.bins[at] as number;

test('forty things are done at once with ten pieces: what was answered is what is there, and no law is broken', async () => {
  const itemId = await business.item('TOG-1');
  await stocked(business, itemId, '10');
  const { owner } = business;
  let [sent, lent] = [0, 0];
  const transfer = async () => {
    const made = await owner.ask(transfers.createTransfer, {
      body: { fromSiteId: business.siteId, toSiteId: business.otherSiteId, sendBy: '2026-03-12', lines: [{ itemId, quantity: '1' }] },
    });
    const params = { id: made.data?.id as number };
    if (made.status !== 200) return made.status;
    const lineId = (await owner.get(transfers.getTransfer, { params })).lines[0]?.id as number;
    const gone = await owner.ask(transfers.sendTransfer, { params, body: { lines: [{ lineId, binId: bin(), quantity: '1' }] } });
    if (gone.status !== 200) return gone.status;
    // Two tabs receive it: one does.
    const receive = () => owner.ask(receiving.receive, { body: { lines: [{ lineId, quantity: '1', binId: far }] } });
    const both = await Promise.all([receive(), receive()]);
    expect(both.filter(({ status }) => status === 200)).toHaveLength(1);
    sent += 1;
    return 200;
  };
  const loan = async (brings: boolean) => {
    const made = await owner.ask(loans.lend, { body: { holderId, lines: [{ itemId, binId: bin(), quantity: '1' }] } });
    if (made.status !== 200) return made.status;
    lent += 1;
    if (!brings) return 200;
    const [line] = (await owner.get(loans.getLoan, { params: { id: made.data.id as number } })).lineRows;
    const back = () => owner.ask(loans.bringBack, { body: { lines: [{ lineId: line?.id as number, quantity: '1', binId: bin() }] } });
    const both = await Promise.all([back(), back()]);
    expect(both.filter(({ status }) => status === 200)).toHaveLength(1);
    lent -= 1;
    return 200;
  };
  const move = async (there: boolean) => {
    const [fromBinId, toBinId] = there ? [bin(), bin(1)] : [bin(1), bin()];
    return (await owner.ask(moves.moveGoods, { body: { note: '', lines: [{ itemId, quantity: '1', fromBinId, toBinId }] } })).status;
  };
  const all = await Promise.all(
    Array.from({ length: 40 }, (_, n) => [() => transfer(), () => loan(n % 8 < 4), () => move(true), () => move(false)][n % 4]?.()),
  );
  // Refused is what came too late for what was left; nothing went wrong on our side.
  expect(all.every((status) => status === 200 || status === 409)).toBe(true);
  const { sites } = await owner.get(stock.itemStock, { params: { id: itemId } });
  const lies = (siteId: number) => sites.find((one) => one.siteId === siteId)?.bins.reduce((total, { quantity }) => total + Number(quantity), 0) ?? 0;
  expect([lies(business.otherSiteId), lies(business.siteId) + sent + lent]).toEqual([sent, 10]);
});

test('two count the same bin on sheets of their own while others take from it: posted at once, it is put right once', async () => {
  const itemId = await business.item('TOG-2');
  await stocked(business, itemId, '20');
  const { owner } = business;
  const plan = { zone: '', binIds: [], categoryId: null, itemIds: [itemId], classes: [], notSince: null, differedSince: null, doubted: false, due: false };
  const counted = async () => {
    const { id } = await owner.get(counts.createCount, { body: { siteId: business.siteId, plan } });
    const params = { id, placeId: bin() };
    await owner.get(counts.enterCount, { params, body: { entries: [{ itemId, quantity: '18', way: 'typed' }] } });
    await owner.get(counts.finishBin, { params, body: {} });
    return id;
  };
  const sheets = [await counted(), await counted()];
  const post = (id: number) => owner.ask(counts.postCount, { params: { id }, body: { reasonId: business.reasonId } });
  const take = () => owner.ask(loans.lend, { body: { holderId, lines: [{ itemId, binId: bin(), quantity: '2' }] } });
  const done = await Promise.all([...sheets, ...sheets].map((id) => post(id)).concat([take() as never, take() as never]));
  // Each sheet is posted once, whoever presses twice.
  expect(
    done
      .slice(0, 4)
      .map(({ status }) => status)
      .sort(),
  ).toEqual([200, 200, 409, 409]);
  const { sites } = await owner.get(stock.itemStock, { params: { id: itemId } });
  expect(sites.find(({ siteId }) => siteId === business.siteId)?.bins.map(({ quantity }) => quantity)).toEqual(['14']);
});

test('work is taken for, recorded and undone by several at once: of ten parts no more is made than they give, and each record is kept once', async () => {
  const { owner, siteId } = business;
  const [partId, madeId] = [await business.item('TOG-3'), await business.item('TOG-4', { purchasePrice: null })];
  await stocked(business, partId, '10');
  await owner.get(making.createBom, { body: { itemId: madeId, startsOn: '2026-03-01', parts: [{ itemId: partId, quantity: '2' }] } });
  let made = 0;
  const work = async (takesBack: boolean) => {
    const body = { itemId: madeId, siteId, quantity: '1', startsOn: '2026-03-10', dueOn: '2026-03-11', release: true };
    const params = { id: (await owner.get(workOrders.createWorkOrder, { body })).id as number };
    const lineId = (await owner.get(workOrders.getWorkOrder, { params })).lines[0]?.id as number;
    const taken = await owner.ask(workOrders.pickWorkOrder, { params, body: { lines: [{ lineId, binId: bin(), quantity: '2' }] } });
    if (taken.status !== 200) return taken.status;
    const { version, products } = await owner.get(workOrders.getWorkOrder, { params });
    const recorded = {
      version,
      used: [{ lineId, quantity: '2' }],
      made: [{ lineId: products[0]?.id as number, quantity: '1', binId: bin(1) }],
      otherCost: true,
    };
    const record = () => owner.ask(records.recordWork, { params, body: recorded });
    // The same sheet from two machines: one of them keeps it.
    const both = await Promise.all([record(), record()]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    made += 1;
    if (!takesBack) return 200;
    const movementId = both.find(({ status }) => status === 200)?.data.movementId as number;
    const undo = () => owner.ask(stock.undo, { body: { movementId } });
    const undone = await Promise.all([undo(), undo()]);
    expect(undone.filter(({ status }) => status === 200)).toHaveLength(1);
    made -= 1;
    return 200;
  };
  const all = await Promise.all(Array.from({ length: 12 }, (_, n) => work(n % 3 === 0)));
  expect(all.every((status) => status === 200 || status === 409)).toBe(true);
  expect(all.filter((status) => status === 200).length).toBe(5);
  const { sites } = await owner.get(stock.itemStock, { params: { id: madeId } });
  expect(sites.flatMap(({ bins }) => bins).reduce((total, { quantity }) => total + Number(quantity), 0)).toBe(made);
});
