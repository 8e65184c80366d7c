import { addDays } from '@larder/core/day';
import { ReceiptForm } from '@larder/contract/receiving';
import { sendTransfer as sending } from '@larder/contract/transfers';
import { and, desc, eq, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { deskLines } from '../areas/inbound/deskLines';
import { receive } from '../areas/inbound/receive';
import { transferNow } from '../areas/transfers/queries';
import { loseTransfer, sendTransfer, transferPickList } from '../areas/transfers/sending';
import { writeTransfer } from '../areas/transfers/service';
import { item, itemSite, reason } from '../db/schema/index';
import { idOf } from './idOf';

/** What one site sends to the other: one that is to be sent, one in transit, and one that has come but for a piece that was lost. */
export async function between(act: Act, fromSiteId: number, toSiteId: number): Promise<void> {
  const plenty = await act.tx.db
    .select({ id: item.id })
    .from(itemSite)
    .innerJoin(item, eq(item.id, itemSite.itemId))
    .where(and(eq(itemSite.siteId, fromSiteId), eq(item.tracking, 'none'), sql`${itemSite.free} >= 40`, sql`${item.retiredAt} is null`))
    .orderBy(desc(itemSite.free), item.id)
    .limit(7);
  const ask = async (items: readonly { id: number }[], quantity: string, note: string): Promise<number> => {
    const head = { fromSiteId, toSiteId, sendBy: act.today, expectedOn: addDays(act.today, 1), carrierId: null, tracking: '', note };
    const lines = items.map(({ id }) => ({ itemId: id, quantity, fromBinId: null, toBinId: null, salesLineId: null }));
    return (await writeTransfer(act, head, lines)).id as number;
  };
  const send = async (id: number, tracking: string): Promise<void> => {
    const { rows } = await transferPickList(act, id);
    const lines = rows.map(({ lineId, binId, lotId, take }) => ({ lineId, binId, lotId, quantity: take }));
    await sendTransfer(act, id, sending.body.parse({ lines, tracking }));
  };
  await ask(plenty.slice(0, 2), '12', 'For the Saturday market.');
  await send(await ask(plenty.slice(2, 5), '10', ''), 'van 2, crate 14');
  const came = await ask(plenty.slice(5, 7), '6', '');
  await send(came, 'van 2, crate 11');
  const [first, second] = (await deskLines(act, toSiteId)).filter(({ kind, orderId }) => kind === 'transfer' && orderId === came);
  if (!first?.binId || !second?.binId) return;
  const receipt = { lines: [first, second].map(({ lineId, binId }, index) => ({ lineId, binId, quantity: index === 0 ? '6' : '5' })) };
  await receive(act, ReceiptForm.parse(receipt));
  const lost = (await transferNow(act, came)).underWay;
  const reasonId = await idOf(act, reason, eq(reason.code, 'lost-on-the-way'));
  await loseTransfer(act, came, { reasonId, note: 'one short in the crate', lines: lost.map(({ lineId, lotId, quantity }) => ({ lineId, lotId, quantity })) });
}
