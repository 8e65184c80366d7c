import type * as receiving from '@larder/contract/receiving';
import type { Sites } from '@larder/contract/rights';
import { and, eq, gt, isNotNull, isNull, ne, not, or, sql } from 'drizzle-orm';
import { atSites, positive } from '../../db/given';
import { alias } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { jsonRows } from '../../db/json';
import {
  balance,
  deskTally,
  item,
  itemPolicy,
  itemSite,
  party,
  person,
  place,
  purchaseLine,
  purchaseOrder,
  salesLine,
  salesOrder,
  site,
  transfer,
  transferLine,
  unit,
} from '../../db/schema/index';
import { plain } from '../../db/text';
import { codesOf } from '../../documents/codes';

const customer = alias(party, 'customer');
const fromSite = alias(site, 'from_site');
const toBin = alias(place, 'to_bin');
/** The day a line is expected: its own, else its order's. */
const expectedOn = sql<string | null>`coalesce(${purchaseLine.expectedOn}, ${purchaseOrder.expectedOn})`;

/** What lines of the desk say of their item and where it goes, whatever brings it. */
const sharedFields = ({ tx, by, now }: Act, bin: ReturnType<typeof binProposed>, lineId: typeof purchaseLine.id | typeof transferLine.id) => ({
  siteId: site.id,
  site: site.name,
  itemId: item.id,
  sku: item.sku,
  name: item.name,
  unit: unit.code,
  step: plain(unit.step),
  tracking: item.tracking,
  waiting: waitingOf(tx),
  others: othersOf(by.id, now, lineId),
  codes: codesOf(item.id, { suppliers: true }),
  binProposedId: bin.id,
  binProposed: bin.code,
});

/** Every open line that still wants goods, by expected day: of orders, and of transfers what is in transit. */
export async function deskLines(act: Act, siteId?: number): Promise<receiving.DeskLine[]> {
  const sites = act.sites('look', siteId);
  const rows = [...(await purchased(act, sites)), ...(await sentHere(act, sites))];
  return rows
    .map(({ binProposedId, binProposed, ...row }) => ({ ...row, binId: row.stocked ? binProposedId : null, bin: row.stocked ? binProposed : null }))
    .sort(
      (a, b) =>
        byDay(a.expectedOn, b.expectedOn) || a.orderNumber.length - b.orderNumber.length || byText(a.orderNumber, b.orderNumber) || a.position - b.position,
    );
}

const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
const byDay = (a: string | null, b: string | null): number => byText(a ?? '9999', b ?? '9999');

function purchased(act: Act, sites: Sites) {
  const bin = binProposed(act.tx);
  const toCome = or(positive(purchaseLine.incoming), and(not(purchaseLine.stocked), not(purchaseLine.direct), positive(purchaseLine.outstanding)));
  return act.tx.db
    .select({
      ...sharedFields(act, bin, purchaseLine.id),
      lineId: purchaseLine.id,
      kind: sql<'purchase' | 'transfer'>`'purchase'`,
      delivery: sql<string>`${purchaseOrder.id}::text`,
      orderId: purchaseOrder.id,
      orderNumber: purchaseOrder.number,
      supplier: party.name,
      expectedOn,
      position: purchaseLine.position,
      outstanding: plain(purchaseLine.outstanding),
      stocked: purchaseLine.stocked,
    })
    .from(purchaseLine)
    .innerJoin(purchaseOrder, eq(purchaseOrder.id, purchaseLine.orderId))
    .innerJoin(party, eq(party.id, purchaseOrder.supplierId))
    .innerJoin(site, eq(site.id, purchaseLine.siteId))
    .innerJoin(item, eq(item.id, purchaseLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, site.id)))
    .leftJoinLateral(bin, sql`true`)
    .where(and(toCome, atSites(purchaseLine.siteId, sites)));
}

/** What other sites have sent and is in transit; it goes to the bin that the transfer says. */
async function sentHere(act: Act, sites: Sites) {
  const bin = binProposed(act.tx);
  const rows = await act.tx.db
    .select({
      ...sharedFields(act, bin, transferLine.id),
      lineId: transferLine.id,
      kind: sql<'purchase' | 'transfer'>`'transfer'`,
      delivery: sql<string>`'t' || ${transfer.id}`,
      orderId: transfer.id,
      orderNumber: transfer.number,
      supplier: fromSite.name,
      expectedOn: transfer.expectedOn,
      position: transferLine.position,
      outstanding: plain(transferLine.inTransit),
      stocked: sql<boolean>`true`,
      toBinId: transferLine.toBinId,
      toBin: toBin.code,
    })
    .from(transferLine)
    .innerJoin(transfer, eq(transfer.id, transferLine.transferId))
    .innerJoin(fromSite, eq(fromSite.id, transferLine.fromSiteId))
    .innerJoin(site, eq(site.id, transferLine.toSiteId))
    .innerJoin(item, eq(item.id, transferLine.itemId))
    .innerJoin(unit, eq(unit.id, item.unitId))
    .leftJoin(toBin, and(eq(toBin.id, transferLine.toBinId), isNull(toBin.retiredAt)))
    .leftJoin(itemSite, and(eq(itemSite.itemId, item.id), eq(itemSite.siteId, site.id)))
    .leftJoinLateral(bin, sql`true`)
    .where(and(positive(transferLine.incoming), positive(transferLine.inTransit), atSites(transferLine.toSiteId, sites)));
  return rows.map(({ toBinId, toBin: code, ...row }) => (toBinId === null ? row : { ...row, binProposedId: toBinId, binProposed: code }));
}

/** The bin that is proposed: the item's own, else where it lies already, else the place for goods without a bin. */
const binProposed = ({ db }: Act['tx']) =>
  db
    .select({ id: sql<number>`${place.id}`.as('bin_id'), code: sql<string>`${place.code}`.as('bin_code') })
    .from(place)
    .leftJoin(itemPolicy, and(eq(itemPolicy.binId, place.id), eq(itemPolicy.itemId, item.id), eq(itemPolicy.siteId, site.id)))
    .leftJoin(balance, and(eq(balance.placeId, place.id), eq(balance.itemId, item.id), positive(balance.quantity)))
    .where(
      and(
        eq(place.siteId, site.id),
        eq(place.kind, 'bin'),
        isNull(place.retiredAt),
        or(isNotNull(itemPolicy.itemId), and(isNotNull(balance.itemId), place.sellable), place.unplaced),
      ),
    )
    .orderBy(sql`${itemPolicy.itemId} is null`, sql`${balance.quantity} desc nulls last`, place.id)
    .limit(1)
    .as('bin_proposed');

/** The first orders that are short of the item at the site. */
function waitingOf({ db }: Act['tx']) {
  const first = db
    .select({
      orderId: sql<number>`${salesOrder.id}`.as('waiting_id'),
      number: sql<string>`${salesOrder.number}`.as('waiting_number'),
      customer: sql<string>`${customer.name}`.as('waiting_customer'),
      short: sql<string>`trim_scale(${salesLine.short})::text`.as('waiting_short'),
      promised: sql<string>`coalesce(${salesLine.promisedOn}, '9999-12-31')`.as('promised'),
      due: sql<string | null>`${salesLine.shipBy}`.as('due'),
    })
    .from(salesLine)
    .innerJoin(salesOrder, eq(salesOrder.id, salesLine.orderId))
    .innerJoin(customer, eq(customer.id, salesOrder.customerId))
    .where(and(positive(itemSite.short), eq(salesLine.itemId, item.id), eq(salesLine.siteId, site.id), positive(salesLine.short)))
    .orderBy(sql`promised`, sql`due`, salesOrder.id)
    .limit(5)
    .as('first_waiting');
  return jsonRows({ orderId: first.orderId, number: first.number, customer: first.customer, short: first.short }, (select) => select.from(first), {
    orderBy: sql`${first.promised}, ${first.due}, ${first.orderId}`,
  });
}

/** What others have counted of the line in the last twelve hours. */
function othersOf(personId: number, now: Date, lineId: typeof purchaseLine.id | typeof transferLine.id) {
  const counted = sql<string>`${deskTally.tally} -> 'lines' -> ${lineId}::text ->> 'quantity'`;
  return jsonRows(
    { person: person.name, quantity: counted },
    (select) =>
      select
        .from(deskTally)
        .innerJoin(person, eq(person.id, deskTally.personId))
        .where(
          and(ne(deskTally.personId, personId), gt(deskTally.changedAt, new Date(now.getTime() - 12 * 3_600_000).toISOString()), sql`${counted} ~ '^[0-9]'`),
        ),
    { orderBy: person.name },
  );
}
