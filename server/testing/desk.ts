import * as bills from '@larder/contract/bills';
import * as books from '@larder/contract/books';
import type { Asked } from '@larder/contract/endpoint';
import * as inbound from '@larder/contract/inbound';
import * as landed from '@larder/contract/landed';
import * as receiving from '@larder/contract/receiving';
import * as stock from '@larder/contract/stock';
import type { Business } from './business';

export interface OrderedLine {
  itemId: number;
  quantity: string;
  price: string;
  pricePer?: string;
}
type BillLines = bills.BillForm['lines'];

/** What somebody at the desk does all day, in a line each: order, receive, send back, bill, charge, take back. */
export function deskOf(business: Business) {
  const { owner, supplierId, siteId } = business;
  const binId = business.bins[0] as number;
  let references = 0;
  const bill = (lines: BillLines, more: Partial<bills.BillForm> = {}) =>
    owner.ask(bills.createBill, { body: { partyId: supplierId, reference: `X-${(references += 1)}`, billedOn: '2026-03-10', lines, ...more } });
  return {
    /** Places an order; its id and the ids of its lines. */
    order: async (lines: OrderedLine[], head: Partial<Asked<typeof inbound.createPurchase>['body']> = {}) => {
      const draft = await owner.get(inbound.createPurchase, { body: { supplierId, siteId, lines, ...head } });
      const placed = await owner.get(inbound.decidePurchase, { params: { id: draft.id }, body: { decision: 'place', version: draft.version } });
      return { id: placed.id, number: placed.number, lineIds: placed.lines.map(({ id }) => id), lineId: placed.lines[0]?.id as number };
    },
    /** Receives so many of each line; the movement. */
    receive: async (lines: readonly { lineId: number; quantity: string; lots?: string[] }[], more: Partial<Asked<typeof receiving.receive>['body']> = {}) => {
      const body = { lines: lines.map(({ lots = [], ...line }) => ({ ...line, binId, lots: lots.map((code) => ({ code })) })), ...more };
      return (await owner.get(receiving.receive, { body })).movementId as number;
    },
    back: (
      orderId: number,
      purchaseLineId: number,
      quantity: string,
      more: { then?: 'replaced' | 'credited'; lotId?: number; receiptLineId?: number } = { then: 'replaced' },
    ) => {
      const { then, ...line } = more;
      return owner.ask(receiving.returnGoods, {
        body: { orderId, note: 'cracked', then: then ?? null, lines: [{ purchaseLineId, binId, quantity, ...line }] },
      });
    },
    bill,
    /** A bill for so many of an order line, at a price. */
    billed: async (purchaseLineId: number, quantity: string, price: string, more: Partial<bills.BillForm> = {}) => {
      const { status, data, problem } = await bill([{ kind: 'goods', purchaseLineId, quantity, price }], more);
      if (status !== 200) throw new Error(problem.title);
      return { ...data, id: data.id as number };
    },
    undoBill: (id: number) => owner.ask(bills.undoBill, { params: { id }, body: {} }),
    undo: (movementId: number, more: { countedSince?: boolean } = {}) => owner.ask(stock.undo, { body: { movementId, ...more } }),
    charge: (movementIds: number[], charges: landed.LandedForm['charges']) => owner.ask(landed.createSheet, { body: { movementIds, charges } }),
    undoSheet: (id: number) => owner.ask(landed.undoSheet, { params: { id }, body: {} }),
    /** More or fewer of an item in the first bin. */
    correct: (itemId: number, quantity: string, more: Partial<Asked<typeof stock.correct>['body']> = {}, lotId: number | null = null) =>
      owner.ask(stock.correct, {
        body: { way: 'plus-or-minus', reasonId: business.reasonId, lines: [{ itemId, binId, lotId, quantity }], ...more },
      }),
    /** There are now so many, as of what is known now. */
    count: async (itemId: number, quantity: string, more: Partial<Asked<typeof stock.correct>['body']> = {}) => {
      const { seq } = await owner.get(stock.itemStock, { params: { id: itemId } });
      return owner.ask(stock.correct, { body: { way: 'there-are-now', reasonId: business.reasonId, lines: [{ itemId, binId, quantity, seq }], ...more } });
    },
    worth: async (itemId: number) => (await owner.get(stock.itemStock, { params: { id: itemId } })).value,
    onOrder: async (itemId: number) => (await owner.get(stock.itemStock, { params: { id: itemId } })).sites.find((one) => one.siteId === siteId)?.onOrder,
    /** Balances by purpose, as numbers of cents. */
    accounts: async () => {
      const { rows } = await owner.get(books.listAccounts);
      return Object.fromEntries(rows.flatMap(({ purpose, balance }) => (purpose ? [[purpose, Math.round(Number(balance) * 100)]] : [])));
    },
  };
}
export type Desk = ReturnType<typeof deskOf>;
