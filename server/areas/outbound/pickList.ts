import type * as contract from '@larder/contract/picking';
import type { ResponseOf } from '@larder/contract/endpoint';
import { Refusal } from '@larder/core/refusal';
import { and, eq, exists, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { salesLine, salesOrder, site } from '../../db/schema/index';
import { jsonRows } from '../../db/json';
import { prepared } from '../../db/prepared';
import { picksOf } from '../../documents/picks';
import { seenSale } from './queries';

type PickList = ResponseOf<typeof contract.pickList>;

/** Where an order is, and where its lines come from. */
const readSites = prepared(['id'], (db, { id }) =>
  db
    .select({
      siteId: salesOrder.siteId,
      lines: jsonRows({ siteId: site.id }, (select) =>
        select.from(site).where(
          exists(
            db
              .select({ one: sql`1` })
              .from(salesLine)
              .where(and(eq(salesLine.orderId, salesOrder.id), eq(salesLine.siteId, site.id))),
          ),
        ),
      ),
    })
    .from(salesOrder)
    .where(sql`${salesOrder.id} = ${id}`),
);

/** What to take from which bin for an order, in walking order, at the sites that the person may look at: reserved goods and, beyond, what is free. */
export async function pickList(act: Act, id: number): Promise<PickList> {
  const [order] = await readSites(act.tx, { id });
  if (!order) throw new Refusal(404, 'not-found', 'There is no such sales order.');
  seenSale(act, order);
  const mine = act.sites('look');
  const sites = order.lines.map(({ siteId }) => siteId).filter((siteId) => mine === null || mine.includes(siteId));
  return picksOf(act, [{ kind: 'sales', id }], sites);
}
