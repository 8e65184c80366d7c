import { expect, test } from '@jest/globals';
import * as invoices from '@larder/contract/invoices';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as receiving from '@larder/contract/receiving';
import * as returns from '@larder/contract/returns';
import * as setup from '@larder/contract/setup';
import * as shipping from '@larder/contract/shipping';
import * as stock from '@larder/contract/stock';
import * as transfers from '@larder/contract/transfers';
import { dice } from '../../demo/dice';
import { openBusiness } from '../../testing/business';
import { stocked } from '../../testing/trade';

const [sellers, pickers, clerks, movers] = [8, 4, 3, 2];
/** What has to have been done at least once, and how long it is waited for, in seconds. */
const [wanted, patience] = [['confirm', 'pick', 'send', 'invoice', 'take back', 'transfer', 'move', 'arrive'], 60];
/** Seconds that all of them work; more for a longer look. */
const seconds = Number(process.env['SCARCE_SECONDS'] ?? 8);
const today = '2026-03-10';

test('eight sell, four pick and send, three invoice, credit and take goods back, two send goods between sites, all at once on ten scarce items: nothing is sold twice, no number is missing, every law holds', async () => {
  const business = await openBusiness();
  const { owner, customerId, siteId, bins } = business;
  const items: number[] = [];
  for (let n = 0; n < 10; n += 1) {
    const id = await business.item(`SCARCE-${n}`, { costMethod: n % 2 === 0 ? 'average' : 'fifo' });
    items.push(id);
    await stocked(business, id, '25', `${n + 1}.07`);
  }
  const reasonId = (await owner.get(setup.reference)).returnReasons[0]?.id as number;
  const orders: number[] = [];
  const posted: number[] = [];
  const answers: string[] = [];
  const told = (what: string, { status, problem }: { status: number; problem: { title?: string } }) =>
    void answers.push(`${what} ${status}${status >= 500 ? ` ${problem.title ?? ''}` : ''}`);
  const ends = Date.now() + seconds * 1000;

  const sell = async (roll: (sides: number) => number) => {
    const lines = Array.from({ length: 1 + roll(3) }, () => ({
      itemId: items[roll(10)] as number,
      quantity: String(1 + roll(4)),
      price: `${1 + roll(9)}.${10 + roll(89)}`,
    }));
    const made = await owner.ask(outbound.createSale, { body: { customerId, siteId, shipBy: `2026-03-${12 + roll(9)}`, lines } });
    told('write', made);
    const confirmed = await owner.ask(outbound.confirmSale, { params: { id: made.data.id }, body: { version: made.data.version } });
    told('confirm', confirmed);
    orders.push(made.data.id);
  };
  const pick = async (roll: (sides: number) => number) => {
    const id = orders[roll(orders.length)];
    if (id === undefined) return;
    const { rows } = await owner.get(picking.pickList, { params: { id } });
    const lines = rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
    if (lines.length > 0) told('pick', await owner.ask(picking.pick, { body: { orderId: id, lines } }));
    const { loose } = await owner.get(shipping.getPacking, { params: { id } });
    if (loose.length === 0) return;
    const sent = await owner.ask(shipping.dispatch, { body: { orderId: id, lines: loose.map(({ lineId, quantity }) => ({ lineId, quantity })) } });
    told('send', sent);
    if (sent.status === 200) posted.push(sent.data.movementId as number);
    const movementId = posted[roll(posted.length)];
    if (roll(5) === 0 && movementId !== undefined) told('undo', await owner.ask(stock.undo, { body: { movementId } }));
  };
  const keepBooks = async (roll: (sides: number) => number) => {
    const what = roll(4);
    if (what === 0) {
      const { rows } = await owner.get(invoices.listToInvoice, { query: {} });
      const row = rows[roll(rows.length)];
      if (row)
        told(
          'invoice',
          await owner.ask(invoices.createInvoice, {
            body: { dispatches: row.dispatches.map(({ orderId, movementId }) => ({ orderId, movementId })), invoicedOn: today },
          }),
        );
    } else if (what === 1) {
      const { rows } = await owner.get(returns.listHeld, { query: { customerId } });
      const held = rows[roll(rows.length)];
      if (!held) return;
      const line = { salesLineId: held.salesLineId, itemId: held.itemId, lotId: held.lotId, quantity: String(1 + roll(Number(held.held))), reasonId };
      const where = roll(4) === 0 ? { condition: 'scrap' as const, binId: null } : { condition: 'shelf' as const, binId: bins[0] as number };
      const back = await owner.ask(returns.createReturn, { body: { customerId, siteId, cameOn: today, lines: [{ ...line, ...where }] } });
      told('take back', back);
      if (back.status === 200) posted.push(back.data.movementId as number);
    } else if (what === 2) {
      const { rows } = await owner.get(returns.listReturns, { query: { show: 'to credit' } });
      const one = rows[roll(rows.length)];
      const [of] = one ? (await owner.get(returns.getReturn, { params: { id: one.id } })).toCredit : [];
      if (of)
        told(
          'credit',
          await owner.ask(invoices.creditInvoice, {
            params: { id: of.invoiceId },
            body: { invoicedOn: today, lines: of.lines.map(({ lineId, quantity }) => ({ lineId, quantity, amount: null })) },
          }),
        );
    } else {
      const { rows } = await owner.get(invoices.listInvoices, { query: { show: 'open' } });
      const one = rows[roll(rows.length)];
      if (one && Number(one.open) > 0)
        told('pay', await owner.ask(invoices.recordMoney, { body: { paidOn: today, parts: [{ invoiceId: one.id, amount: one.open }] } }));
    }
  };
  const { rows: there } = await owner.get(setup.createBins, { body: { siteId: business.otherSiteId, codes: ['H-1'] } });
  const binAt = (site: number): number => (site === siteId ? bins[0] : there[0]?.id) as number;
  const move = async (roll: (sides: number) => number) => {
    const [fromSiteId, toSiteId] = roll(2) === 0 ? [siteId, business.otherSiteId] : [business.otherSiteId, siteId];
    const lines = [{ itemId: items[roll(10)] as number, quantity: String(1 + roll(3)) }];
    const made = await owner.ask(transfers.createTransfer, { body: { fromSiteId, toSiteId, sendBy: today, lines } });
    told('transfer', made);
    const params = { id: made.data.id as number };
    const { rows } = await owner.get(transfers.transferPickList, { params });
    if (rows.length === 0) return;
    const takes = rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
    const gone = await owner.ask(transfers.sendTransfer, { params, body: { lines: takes } });
    told('move', gone);
    if (gone.status !== 200) return;
    posted.push(gone.data.movementId as number);
    const { underWay } = await owner.get(transfers.getTransfer, { params });
    const come = underWay.map(({ lineId, quantity }) => ({ lineId, quantity, binId: binAt(toSiteId) }));
    if (come.length > 0) told('arrive', await owner.ask(receiving.receive, { body: { lines: come } }));
  };
  const isWhole = () => wanted.every((what) => answers.includes(`${what} 200`));
  const at = (seed: number, turn: (roll: (sides: number) => number) => Promise<void>) => async () => {
    const chance = dice(seed);
    // On a slow machine it takes longer until each of them has come to something.
    while (Date.now() < ends || (!isWhole() && Date.now() < ends + patience * 1000)) {
      await turn((sides) => Math.floor(chance.roll() * sides));
      // Who has nothing to do lets the others go on.
      await new Promise(setImmediate);
    }
  };
  const all = [
    ...Array.from({ length: sellers }, (_, n) => at(n + 1, sell)),
    ...Array.from({ length: pickers }, (_, n) => at(n + 101, pick)),
    ...Array.from({ length: clerks }, (_, n) => at(n + 201, keepBooks)),
    ...Array.from({ length: movers }, (_, n) => at(n + 301, move)),
  ];
  await Promise.all(all.map((work) => work()));
  expect(await business.broken()).toEqual([]);
  expect(answers.filter((one) => / 5\d\d/.test(one))).toEqual([]);
  for (const what of wanted) expect(answers).toContain(`${what} 200`);
  const { rows } = await business.pool.query<{ kind: string; count: string; last: number }>(
    'SELECT kind, count(*), max(running) AS last FROM invoice GROUP BY kind',
  );
  for (const { kind, count, last } of rows) expect([kind, Number(count)]).toEqual([kind, last]);
  await business.close();
}, 180_000);
