import type * as contract from '@larder/contract/levels';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { addDays } from '@larder/core/day';
import { decimal, quantityText } from '@larder/core/decimal';
import { levelFaults, wayFault, wayOf, type LevelsWritten, type WayText } from '@larder/core/planning/levels';
import { asItIs, suggested } from '@larder/core/planning/suggestion';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, given, insertRows } from '../../db/given';
import { demandEvent, item, itemPolicy, itemSupplier, levelSuggestion, party, site } from '../../db/schema/index';
import { plain } from '../../db/text';
import { recordChanges } from '../../documents/changes';
import { wayColumns, wayWritten } from '../../documents/levels';
import { readPasts } from './demand';
import { readHoldings, readTerms } from './holdings';
import { allLeads } from './leads';
import { differing, levelRow } from './levelList';

interface Pair {
  itemId: number;
  siteId: number;
}

/** What the past of an item at a site says for its levels, reckoned as it is looked at. */
export async function levelDetail(act: Act, itemId: number, siteId: number): Promise<ResponseOf<typeof contract.getLevel>> {
  const {
    tx: { db },
    today,
  } = act;
  act.sites('look', siteId);
  const row = await levelRow(act, itemId, siteId);
  const terms = await readTerms(db);
  const [pasts, came, events] = await Promise.all([
    readPasts(db, { itemIds: [itemId], sites: [siteId], today }),
    allLeads(db, today),
    db
      .select({ id: demandEvent.id, name: demandEvent.name, startsOn: demandEvent.startsOn, endsOn: demandEvent.endsOn, counts: demandEvent.counts })
      .from(demandEvent)
      .innerJoin(item, eq(item.id, itemId))
      .where(
        and(
          sql`coalesce(${demandEvent.siteId}, ${siteId}) = ${siteId}`,
          sql`coalesce(${demandEvent.itemId}, ${item.id}) = ${item.id}`,
          sql`(${demandEvent.categoryId} is null or ${demandEvent.categoryId} = ${item.categoryId})`,
        ),
      )
      .orderBy(demandEvent.startsOn),
  ]);
  const held = (await readHoldings(db, [itemId], { today, came, terms }))(itemId, siteId);
  const [past] = pasts;
  const found = past && held ? suggested(past.days, held.holding) : null;
  if (!past || !held || !found) return { row, past: null, events };
  const first = addDays(today, -7 * found.weeks.length);
  return {
    row,
    events,
    past: {
      from: past.from,
      pattern: found.traits.pattern,
      ...found.filled,
      weeks: found.weeks.map((wanted, nth) => ({ from: addDays(first, 7 * nth), wanted })),
      ahead: found.ahead.map((week, nth) => ({ from: addDays(today, 7 * nth), ...week })),
      tried: found.tried.map(({ method, forecast, meanError, rootSquared, bias }) => ({
        ...{ method, weeks: forecast.length, meanError, rootSquared, bias, said: forecast },
      })),
      perDay: found.perDay,
      spread: found.spread,
      lead: { ...held.lead, source: await sourceInWords(act, held.source) },
      service: terms.service[held.class],
      quantile: held.holding.z,
      safety: found.safety,
      economic: found.economic,
      pack: held.holding.pack,
      point: quantityText(decimal(found.point)),
      upTo: quantityText(decimal(found.upTo)),
      replayFrom: addDays(today, -found.replay.stock.length),
      suggested: found.replay,
      now: held.now && asItIs(past.days, held.now),
    },
  };
}

/** From whom more comes, in words: a supplier's name, a site's, or that it is made. */
async function sourceInWords({ tx: { db } }: Act, source: string | null): Promise<string> {
  const [by, id] = (source ?? '').split(' ');
  if (by === 'make') return 'made here';
  const table = by === 'bring' ? site : party;
  const [row] =
    id === undefined
      ? []
      : await db
          .select({ name: table.name })
          .from(table)
          .where(eq(table.id, Number(id)));
  return row?.name ?? 'nobody yet';
}

/** What is kept of items at sites now; nothing where nothing is. */
async function readNow({ tx: { db } }: Act, pairs: readonly Pair[]) {
  const rows = await db
    .select({
      itemId: itemPolicy.itemId,
      siteId: itemPolicy.siteId,
      reorderPoint: plain(itemPolicy.reorderPoint),
      orderUpTo: plain(itemPolicy.orderUpTo),
      coverDays: itemPolicy.coverDays,
      packSize: plain(itemPolicy.packSize),
      way: wayWritten,
    })
    .from(itemPolicy)
    .where(among(itemPolicy.itemId, [...new Set(pairs.map(({ itemId }) => itemId))]));
  return new Map(rows.map((row) => [`${row.itemId}/${row.siteId}`, row]));
}

const none: LevelsWritten & { way: WayText } = { reorderPoint: null, orderUpTo: null, coverDays: null, packSize: null, way: 'best' };

/** Items that are named, which are in use and kept in stock, held so that nobody writes them meanwhile; refused where one is not. */
async function takeItems({ tx: { db } }: Act, pairs: readonly Pair[]) {
  const ids = [...new Set(pairs.map(({ itemId }) => itemId))];
  const items = new Map(
    (await db.select({ id: item.id, sku: item.sku, kind: item.kind }).from(item).where(among(item.id, ids)).orderBy(item.id).for('update')).map((row) => [
      row.id,
      row,
    ]),
  );
  const sites = new Map((await db.select({ id: site.id, name: site.name }).from(site).where(isNull(site.retiredAt))).map(({ id, name }) => [id, name]));
  for (const [index, { itemId, siteId }] of pairs.entries()) {
    const of = items.get(itemId);
    if (!of || !sites.has(siteId)) throw refuseField(404, 'not-found', `rows.${index}`, 'There is no such item, or no such site in use.');
    if (of.kind !== 'stocked') throw refuseField(422, 'not-valid', `rows.${index}`, `${of.sku} is not kept in stock: it has no reorder point.`);
  }
  return { items, sites };
}

/** What each becomes is kept, with who changed it; an item's form that is open takes it in. */
async function writeLevels(
  act: Act,
  rows: readonly (Pair & { was: object; is: LevelsWritten & { way: WayText } })[],
  sites: ReadonlyMap<number, string>,
): Promise<void> {
  const { tx } = act;
  const kept = rows.map(({ itemId, siteId, is: { reorderPoint, orderUpTo, coverDays, packSize, way } }) => ({
    ...{ itemId, siteId, reorderPoint, orderUpTo, coverDays, packSize },
    ...wayColumns(way),
  }));
  const set = sql`reorder_point = excluded.reorder_point, order_up_to = excluded.order_up_to, cover_days = excluded.cover_days, pack_size = excluded.pack_size,
    way = excluded.way, way_supplier_id = excluded.way_supplier_id, way_site_id = excluded.way_site_id`;
  await insertRows(tx, itemPolicy, kept, sql`on conflict (item_id, site_id) do update set ${set}`);
  // How much is wanted a day is known of those that were looked at before they had levels.
  await tx.db
    .update(itemPolicy)
    .set({ perDay: levelSuggestion.perDay })
    .from(levelSuggestion)
    .where(
      and(
        eq(levelSuggestion.itemId, itemPolicy.itemId),
        eq(levelSuggestion.siteId, itemPolicy.siteId),
        among(itemPolicy.itemId, [...new Set(rows.map(({ itemId }) => itemId))]),
        isNull(itemPolicy.perDay),
      ),
    );
  await tx.db
    .update(item)
    .set({ version: sql`${item.version} + 1` })
    .where(among(item.id, [...new Set(rows.map(({ itemId }) => itemId))]));
  for (const { itemId, siteId, was, is } of rows) {
    const at = sites.get(siteId) ?? '';
    const named = (levels: object) => {
      const of = levels as Partial<LevelsWritten>;
      return { [`reorder point at ${at}`]: of.reorderPoint ?? null, [`order up to at ${at}`]: of.orderUpTo ?? null };
    };
    await recordChanges(act, 'item', itemId, named(was), named(is));
  }
}

/** Sets levels of items at sites, all alike; what is not given stays. Refused, at the field, where what comes of it does not go together for one of them. */
export async function setLevels(act: Act, { rows, set }: BodyOf<typeof contract.setLevels>): Promise<ResponseOf<typeof contract.setLevels>> {
  const { items, sites } = await takeItems(act, rows);
  const now = await readNow(act, rows);
  const suppliers = await act.tx.db
    .select({ itemId: itemSupplier.itemId, supplierId: itemSupplier.supplierId })
    .from(itemSupplier)
    .where(among(itemSupplier.itemId, [...items.keys()]));
  const given = Object.fromEntries(Object.entries(set).filter(([, value]) => value !== undefined)) as Partial<LevelsWritten & { way: WayText }>;
  const become = rows.map(({ itemId, siteId }) => {
    const was = now.get(`${itemId}/${siteId}`) ?? none;
    const is = { ...none, ...was, ...given };
    const own = suppliers.filter((row) => row.itemId === itemId).map(({ supplierId }) => supplierId);
    const wrong = set.way === undefined ? null : wayFault(wayOf(set.way), siteId, { suppliers: own, sites: [...sites.keys()] });
    const faults: FieldError[] = [...levelFaults(is), ...(wrong === null ? [] : [{ field: 'way', sentence: wrong }])];
    const of = `${items.get(itemId)?.sku ?? ''} at ${sites.get(siteId) ?? ''}`;
    return { itemId, siteId, was, is, faults: faults.map(({ field, sentence }) => ({ field: `set.${field}`, sentence: `${of}: ${sentence}` })) };
  });
  const faults = become.flatMap((row) => row.faults);
  if (faults[0]) throw new Refusal(422, 'not-valid', faults[0].sentence, faults.slice(0, 20));
  await writeLevels(act, become, sites);
  return { count: rows.length };
}

/** Takes what is suggested, as it is or changed, or refuses it; each says so. Refused as a whole where one has nothing suggested. */
export async function decideLevels(act: Act, body: BodyOf<typeof contract.decideLevels>): Promise<ResponseOf<typeof contract.decideLevels>> {
  const rows: (Pair & { point?: string | undefined; upTo?: string | undefined })[] =
    body.rows ?? (body.decision === 'accept' ? await differing(act, body.filter ?? { state: 'differs' }) : []);
  if (rows.length === 0) throw new Refusal(409, 'nothing-differs', 'Nothing in this list is suggested otherwise than it is.');
  const { items, sites } = await takeItems(act, rows);
  const { itemId, siteId, point, upTo } = levelSuggestion;
  const pairs = given('chosen', { itemId, siteId }, rows);
  const said = await act.tx.db
    .select({ itemId, siteId, point: plain(point), upTo: plain(upTo) })
    .from(levelSuggestion)
    .innerJoin(pairs.rows, and(eq(itemId, pairs.row.itemId), eq(siteId, pairs.row.siteId)));
  const saidOf = new Map(said.map((row) => [`${row.itemId}/${row.siteId}`, row]));
  const now = await readNow(act, rows);
  const decided = rows.map((row, index) => {
    const suggestion = saidOf.get(`${row.itemId}/${row.siteId}`);
    if (!suggestion)
      throw refuseField(
        409,
        'nothing-suggested',
        `rows.${index}`,
        `Nothing is suggested for ${items.get(row.itemId)?.sku ?? ''} at ${sites.get(row.siteId) ?? ''}.`,
      );
    const was = now.get(`${row.itemId}/${row.siteId}`) ?? none;
    const is = { ...none, ...was, reorderPoint: row.point ?? suggestion.point, orderUpTo: row.upTo ?? suggestion.upTo };
    const faults = body.decision === 'accept' ? levelFaults(is) : [];
    if (faults[0]) throw refuseField(422, 'not-valid', `rows.${index}.${faults[0].field === 'orderUpTo' ? 'upTo' : 'point'}`, faults[0].sentence);
    const changed = decimal(is.reorderPoint).eq(suggestion.point) && decimal(is.orderUpTo).eq(suggestion.upTo) ? 'accepted' : 'changed';
    return { itemId: row.itemId, siteId: row.siteId, was, is, decision: body.decision === 'refuse' ? 'refused' : changed, suggestion };
  });
  if (body.decision === 'accept') await writeLevels(act, decided, sites);
  const refused = body.decision === 'refuse';
  const taken = given(
    'decided',
    { itemId, siteId, decision: levelSuggestion.decision, refusedPoint: levelSuggestion.refusedPoint, refusedUpTo: levelSuggestion.refusedUpTo },
    decided.map((row) => ({
      itemId: row.itemId,
      siteId: row.siteId,
      decision: row.decision as 'accepted' | 'changed' | 'refused',
      refusedPoint: refused ? row.suggestion.point : null,
      refusedUpTo: refused ? row.suggestion.upTo : null,
    })),
  );
  await act.tx.db
    .update(levelSuggestion)
    .set({
      decision: taken.row.decision,
      refusedPoint: taken.row.refusedPoint,
      refusedUpTo: taken.row.refusedUpTo,
      decidedAt: act.now.toISOString(),
      decidedBy: act.by.id,
      reason: body.decision === 'refuse' ? body.reason : '',
    })
    .from(taken.rows)
    .where(and(eq(itemId, taken.row.itemId), eq(siteId, taken.row.siteId)));
  return { count: decided.length };
}
