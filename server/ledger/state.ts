import { decimal, type Decimal } from '@larder/core/decimal';
import {
  balanceKey,
  siteKey,
  type AccountPurpose,
  type Counted,
  type ItemState,
  type LedgerState,
  type LineCounters,
  type Movement,
  type SiteState,
} from '@larder/core/ledger/types';
import { and, desc, eq, gt, inArray, isNotNull, notExists, sql, type SQL } from 'drizzle-orm';
import { union } from 'drizzle-orm/pg-core';
import type { Act } from '../act';
import { among, oneRow, positive } from '../db/given';
import { jsonRows, scalar } from '../db/json';
import { prepared } from '../db/prepared';
import {
  account,
  balance,
  binCount,
  company,
  costLayer,
  documentLine,
  item,
  itemAccount,
  itemSite,
  lot,
  movement,
  movementLine,
  place,
  placeChange,
  costPool,
  reason,
  site,
  unit,
} from '../db/schema/index';
import { demandFields, demandLine } from './demand';

/** Everything that a decision about a movement rests on: the places, items and document lines that it names, and who wants the items where. */
const readRows = prepared(['items', 'places', 'reason', 'lines', 'lots', 'more'], (db, value) => {
  const sitesConcerned = union(
    db.select({ id: place.siteId }).from(place).where(among(place.id, value.places)),
    db.select({ id: documentLine.siteId }).from(documentLine).where(among(documentLine.id, value.lines)),
  );
  const lineIds = (condition: SQL | undefined) => db.select({ id: documentLine.id }).from(documentLine).where(condition);
  const named = among(documentLine.id, value.lines);
  const wantsItem = and(among(documentLine.itemId, value.items), positive(documentLine.wanted));
  const wanting = union(lineIds(wantsItem), lineIds(and(named, documentLine.active, documentLine.stocked, documentLine.draws)));
  const told = union(lineIds(named), lineIds(and(sql`${value.more}`, wantsItem)));
  const asked = { rows: sql`unnest(${value.items}::int[]) as asked(item)`, item: sql<number>`asked.item` };
  return db
    .select({
      closed: scalar(db.select({ closed: company.closedThrough }).from(company)),
      accounts: sql<Record<AccountPurpose, number>>`(${db
        .select({ all: sql`json_object_agg(${account.purpose}, ${account.id})` })
        .from(account)
        .where(isNotNull(account.purpose))})`,
      reason: scalar(
        db
          .select({ id: reason.accountId })
          .from(reason)
          .where(sql`${reason.id} = ${value.reason}`),
      ),
      places: jsonRows(
        {
          id: place.id,
          kind: place.kind,
          siteId: place.siteId,
          code: place.code,
          sellable: place.sellable,
          retired: sql<boolean>`${place.retiredAt} is not null`,
        },
        (select) => select.from(place).where(among(place.id, value.places)),
      ),
      items: jsonRows(itemFields, (select) =>
        select
          .from(item)
          .innerJoin(costPool, eq(costPool.itemId, item.id))
          .innerJoin(unit, eq(unit.id, item.unitId))
          .innerJoin(itemAccount, eq(itemAccount.itemId, item.id))
          .where(and(among(item.id, value.items), among(itemAccount.itemId, value.items))),
      ),
      balances: jsonRows({ item: balance.itemId, lot: balance.lotId, place: balance.placeId, quantity: balance.quantity }, (select) =>
        select.from(balance).where(and(among(balance.itemId, value.items), among(balance.placeId, value.places))),
      ),
      sites: jsonRows(
        {
          item: asked.item,
          site: site.id,
          name: site.name,
          onHand: sql<string>`coalesce(${itemSite.onHand}, 0)::text`,
          bench: sql<string>`coalesce(${itemSite.bench}, 0)::text`,
        },
        (select) =>
          select
            .from(asked.rows)
            .crossJoin(site)
            .leftJoin(itemSite, and(eq(itemSite.itemId, asked.item), eq(itemSite.siteId, site.id)))
            .where(inArray(site.id, sitesConcerned)),
      ),
      demand: jsonRows(demandFields, (select) =>
        select.from(documentLine).where(and(inArray(documentLine.id, wanting), inArray(documentLine.siteId, sitesConcerned))),
      ),
      layers: jsonRows(
        { item: costLayer.itemId, seq: costLayer.seq, lot: movementLine.lotId, quantity: costLayer.quantity, value: costLayer.value },
        (select) =>
          select
            .from(costLayer)
            .innerJoin(movementLine, and(eq(movementLine.itemId, costLayer.itemId), eq(movementLine.seq, costLayer.seq)))
            .where(and(among(costLayer.itemId, value.items), positive(costLayer.quantity))),
        { orderBy: costLayer.seq },
      ),
      documents: jsonRows(documentFields, (select) => select.from(documentLine).where(inArray(documentLine.id, told))),
      lots: jsonRows({ id: lot.id, kind: lot.kind, pastUse: lot.pastUse }, (select) => select.from(lot).where(among(lot.id, value.lots))),
    })
    .from(oneRow);
});

const itemFields = {
  id: item.id,
  sku: item.sku,
  name: item.name,
  unit: unit.code,
  stocked: sql<boolean>`${item.kind} = 'stocked'`,
  tracking: item.tracking,
  method: item.costMethod,
  quantity: costPool.quantity,
  value: costPool.value,
  seq: costPool.lastSeq,
  lastQuantity: costPool.lastQuantity,
  lastValue: costPool.lastValue,
  price: item.purchasePrice,
  inventory: itemAccount.inventory,
  cost: itemAccount.cost,
};
type State = Awaited<ReturnType<typeof readRows>>[number];

const documentFields = {
  id: documentLine.id,
  label: sql<string>`${documentLine.number} || ' line ' || ${documentLine.position}`,
  arrived: documentLine.arrived,
  drawn: documentLine.drawn,
  gone: documentLine.gone,
  finished: documentLine.finished,
  open: sql<string>`(${documentLine.arrivedValue} - ${documentLine.billedValue})::text`,
};

/** What is read beyond what the movement names: places of steps that follow, and lines of a document that is only imagined. */
interface More {
  placeIds: readonly number[];
  imagined: ReadonlyMap<number, LineCounters>;
}

/** Everything a decision about the movement rests on, read in one statement. */
export async function readState(act: Act, movement: Movement, more: More = { placeIds: [], imagined: new Map() }): Promise<LedgerState> {
  const itemIds = [...new Set(movement.lines.map(({ itemId }) => itemId))];
  const placeIds = [...new Set([...movement.lines.flatMap((line) => [line.fromPlaceId, line.toPlaceId]), ...more.placeIds])];
  const [row] = await readRows(act.tx, {
    items: itemIds,
    places: placeIds,
    reason: movement.reasonId,
    lines: movement.lines.flatMap(({ serves }) => serves.map(({ lineId }) => lineId)),
    lots: lotIds(movement),
    more: more.placeIds.length > 0,
  });
  if (!row) throw new Error('one row of everything was asked for');
  return {
    today: act.today,
    closedThrough: row.closed,
    places: new Map(row.places.map((place) => [place.id, place])),
    items: new Map(row.items.map((item) => [item.id, itemState(item, row.layers)])),
    balances: new Map(row.balances.map((b) => [balanceKey(b.item, b.lot, b.place), decimal(b.quantity)])),
    lowestSince: movement.effectiveOn < act.today ? await lowestSince(act, movement.effectiveOn, itemIds, placeIds) : new Map(),
    sites: new Map(row.sites.map((site) => [siteKey(site.item, site.site), siteState(site, row.demand)])),
    documents: new Map([...more.imagined, ...row.documents.map((line) => [line.id, countersOf(line)] as const)]),
    pastUse: new Set([...row.lots.filter(({ pastUse }) => pastUse).map(({ id }) => id), ...lotIds({ lines: movement.lines.filter((line) => line.pastUse) })]),
    lotKinds: new Map(row.lots.map(({ id, kind }) => [id, kind])),
    counted: movement.kind === 'undo' || movement.effectiveOn < act.today ? await lastCounts(act, itemIds, placeIds) : new Map(),
    accounts: row.accounts,
    reasonAccount: movement.bearer?.accountId ?? row.reason,
  };
}

const lotIds = ({ lines }: Pick<Movement, 'lines'>): number[] => lines.flatMap(({ lotId }) => (lotId === null ? [] : [lotId]));

const itemState = (row: State['items'][number], layers: State['layers']): ItemState => ({
  id: row.id,
  sku: row.sku,
  name: row.name,
  unit: row.unit,
  stocked: row.stocked,
  tracking: row.tracking,
  costMethod: row.method,
  pool: { quantity: decimal(row.quantity), value: decimal(row.value) },
  layers: layers
    .filter(({ item }) => item === row.id)
    .map(({ seq, lot, quantity, value }) => ({ seq, lotId: lot, quantity: decimal(quantity), value: decimal(value) })),
  lastSeq: row.seq,
  lastHeld: row.lastQuantity === null || row.lastValue === null ? null : { quantity: decimal(row.lastQuantity), value: decimal(row.lastValue) },
  purchasePrice: row.price === null ? null : decimal(row.price),
  inventoryAccount: row.inventory,
  costAccount: row.cost,
});

const siteState = (row: State['sites'][number], demand: State['demand']): SiteState => ({
  itemId: row.item,
  siteId: row.site,
  siteName: row.name,
  onHand: decimal(row.onHand),
  bench: decimal(row.bench),
  demand: demand.filter((line) => line.itemId === row.item && line.siteId === row.site).map(demandLine),
});

const countersOf = (row: State['documents'][number]): LineCounters => ({
  label: row.label,
  arrived: decimal(row.arrived),
  drawn: decimal(row.drawn),
  gone: decimal(row.gone),
  finished: decimal(row.finished),
  open: decimal(row.open),
});

/** The lowest each balance was at the end of any day from `day` up to yesterday: today's balance less what came after. */
async function lowestSince({ tx }: Act, day: string, itemIds: number[], placeIds: number[]): Promise<Map<string, Decimal>> {
  const change = tx.db
    .select({
      itemId: placeChange.itemId,
      lotId: placeChange.lotId,
      placeId: placeChange.placeId,
      day: placeChange.day,
      change: sql<string>`sum(${placeChange.quantity})`.as('change'),
    })
    .from(placeChange)
    .where(and(among(placeChange.itemId, itemIds), gt(placeChange.day, day)))
    .groupBy(placeChange.itemId, placeChange.lotId, placeChange.placeId, placeChange.day)
    .as('change_of_day');
  const past = tx.db
    .select({
      item: balance.itemId,
      lot: balance.lotId,
      place: balance.placeId,
      was: sql<string>`${balance.quantity} - coalesce(sum(change_of_day.change) over (partition by ${balance.itemId}, ${balance.lotId}, ${balance.placeId} order by ${change.day} desc), 0)`.as(
        'was',
      ),
    })
    .from(balance)
    .innerJoin(change, and(eq(change.itemId, balance.itemId), eq(change.placeId, balance.placeId), sql`${change.lotId} is not distinct from ${balance.lotId}`))
    .where(among(balance.placeId, placeIds))
    .as('past');
  const rows = await tx.db
    .select({ item: past.item, lot: past.lot, place: past.place, lowest: sql<string>`min(${past.was})` })
    .from(past)
    .groupBy(past.item, past.lot, past.place);
  return new Map(rows.map((row) => [balanceKey(row.item, row.lot, row.place), decimal(row.lowest)]));
}

/** The last count of each bin that stands. */
async function lastCounts({ tx }: Act, itemIds: number[], placeIds: number[]): Promise<Map<string, Counted>> {
  const undone = tx.db
    .select({ one: sql`1` })
    .from(movement)
    .where(eq(movement.reverses, binCount.movementId));
  const rows = await tx.db
    .selectDistinctOn([binCount.itemId, binCount.lotId, binCount.placeId], {
      item: binCount.itemId,
      lot: binCount.lotId,
      place: binCount.placeId,
      seq: binCount.seq,
      day: binCount.countedOn,
    })
    .from(binCount)
    .where(and(among(binCount.itemId, itemIds), among(binCount.placeId, placeIds), notExists(undone)))
    .orderBy(binCount.itemId, binCount.lotId, binCount.placeId, desc(binCount.seq), desc(binCount.id));
  return new Map(rows.map(({ item, lot, place, seq, day }) => [balanceKey(item, lot, place), { seq, day }]));
}
