import { expect, test } from '@jest/globals';
import * as outbound from '@larder/contract/outbound';
import * as picking from '@larder/contract/picking';
import * as stock from '@larder/contract/stock';
import { openBusiness } from '../../testing/business';
import { stocked } from '../../testing/trade';

const people = 8;
const turns = 40;

test('eight people write, confirm, change, withdraw, split, end, pick and put back the same orders at random: every law holds, and nothing fails but by a refusal', async () => {
  const business = await openBusiness();
  const { owner, customerId, siteId } = business;
  const items: number[] = [];
  for (let n = 0; n < 5; n += 1) {
    const id = await business.item(`SCARCE-${n}`);
    items.push(id);
    await stocked(business, id, '12');
  }
  const dice = (sides: number) => Math.floor(Math.random() * sides);
  const line = () => ({ itemId: items[dice(items.length)] as number, quantity: String(1 + dice(5)), price: '2.00' });
  const day = () => `2026-03-${12 + dice(9)}`;
  const quote = () => ({ customerId, siteId, shipBy: day(), lines: [line(), line()] });
  const orders: number[] = [];
  const answers: string[] = [];
  const told = (what: string, { status }: { status: number }) => void answers.push(`${what} ${status}`);

  const write = async () => {
    const made = await owner.ask(outbound.createSale, { body: quote() });
    told('write', made);
    if (made.status === 200) orders.push(made.data.id);
  };
  const pick = async (id: number) => {
    const { rows } = await owner.get(picking.pickList, { params: { id } });
    if (rows.length === 0) return;
    const lines = rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
    const picked = await owner.ask(picking.pick, { body: { orderId: id, lines } });
    told('pick', picked);
    if (picked.status === 200 && dice(2) === 0) told('put back', await owner.ask(stock.undo, { body: { movementId: picked.data.movementId as number } }));
  };
  const turn = async () => {
    const roll = dice(10);
    if (orders.length < 6 || roll === 0) return write();
    const id = orders[dice(orders.length)] as number;
    const params = { id };
    const { version, shipBy, lines } = await owner.get(outbound.getSale, { params });
    if (roll < 3) return told('confirm', await owner.ask(outbound.confirmSale, { params, body: { version } }));
    if (roll < 5) {
      const kept = lines.map(({ id: lineId, price }) => ({ lineId, quantity: String(dice(6)), price }));
      return told('change', await owner.ask(outbound.amendSale, { params, body: { version, shipBy, lines: kept, added: dice(2) === 0 ? [line()] : [] } }));
    }
    if (roll < 7) {
      const decision = (['withdraw', 'withdraw', 'cancel', 'close', 'reopen'] as const)[dice(5)] ?? 'withdraw';
      return told(decision, await owner.ask(outbound.endSale, { params, body: { version, decision } }));
    }
    if (roll < 8) {
      const parts = lines.slice(0, 1).map((one) => ({ lineId: one.id, quantity: String(dice(Number(one.quantity) + 1)) }));
      return told('split', await owner.ask(outbound.splitSale, { params, body: { version, lines: parts } }));
    }
    return roll < 9 ? pick(id) : told('edit', await owner.ask(outbound.editSale, { params, body: { ...quote(), version } }));
  };
  const work = async () => {
    for (let n = 0; n < turns; n += 1) await turn();
  };
  await Promise.all(Array.from({ length: people }, work));
  expect(await business.broken()).toEqual([]);
  expect(answers.filter((one) => / 5\d\d$/.test(one))).toEqual([]);
  for (const what of ['write', 'confirm', 'change', 'edit']) expect(answers).toContain(`${what} 200`);
  await business.close();
}, 120_000);
