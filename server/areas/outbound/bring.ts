import { addDays } from '@larder/core/day';
import type { Effects } from '@larder/core/ledger/types';
import { and, eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, positive } from '../../db/given';
import { salesLine, salesTerms, site } from '../../db/schema/index';
import { plain } from '../../db/text';
import { recordOrder } from '../../documents/orders';
import { writeTransfer } from '../transfers/service';

/** Has other sites send what a quote wanted brought from them, as it is confirmed: one transfer for each site that sends and each that waits. It is there the day after, unless somebody says otherwise. */
export async function bringFor(act: Act, order: { id: number; number: string }): Promise<Effects> {
  const { db, readOnly } = act.tx;
  const lines = await db
    .select({
      id: salesLine.id,
      itemId: salesLine.itemId,
      toSiteId: salesLine.siteId,
      quantity: plain(salesLine.bring),
      fromSiteId: site.id,
      from: site.name,
    })
    .from(salesLine)
    .innerJoin(site, eq(site.id, salesLine.bringFromId))
    .where(and(eq(salesLine.orderId, order.id), positive(salesLine.bring)))
    .orderBy(salesLine.position);
  const ways = new Map<string, typeof lines>();
  for (const line of lines) {
    const way = `${line.fromSiteId} ${line.toSiteId}`;
    ways.set(way, [...(ways.get(way) ?? []), line]);
  }
  const effects: Effects = { rows: [], notes: [], costNotes: [] };
  for (const group of ways.values()) {
    const [first] = group;
    if (!first) continue;
    const { fromSiteId, toSiteId, from } = first;
    const head = { fromSiteId, toSiteId, sendBy: act.today, expectedOn: addDays(act.today, 1), carrierId: null, tracking: '', note: '' };
    const wanted = group.map(({ id, itemId, quantity }) => ({ itemId, quantity, fromBinId: null, toBinId: null, salesLineId: id }));
    const made = await writeTransfer(act, head, wanted, { confirming: true });
    effects.rows.push(...made.effects.rows);
    effects.costNotes.push(...(made.effects.costNotes ?? []));
    effects.notes.push(...made.effects.notes, `${from} is asked to send ${group.length === 1 ? 'a line' : `${group.length} lines`}.`);
    if (!readOnly) await recordOrder(act, 'sales', order.id, {}, { brought: `${made.number ?? ''} from ${from}` });
  }
  if (!readOnly && lines.length > 0)
    await db
      .update(salesTerms)
      .set({ bring: '0', bringFromId: null })
      .where(
        among(
          salesTerms.id,
          lines.map(({ id }) => id),
        ),
      );
  return effects;
}
