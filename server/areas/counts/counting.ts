import type * as contract from '@larder/contract/counts';
import type { BodyOf, ParamsOf } from '@larder/contract/endpoint';
import { decimal } from '@larder/core/decimal';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { recountOf, type RecountLimits, type RecountWhy } from '@larder/core/stock/counting';
import { and, eq, gt, ne, or, sql } from 'drizzle-orm';
import { QueryBuilder } from 'drizzle-orm/pg-core';
import type { Act } from '../../act';
import { among, given, insertRows, notNone, orNull } from '../../db/given';
import { balance, costPool, countBin, countEntry, countItem, countLine, countSheet, lot, movementLine, person, place } from '../../db/schema/index';
import { lineFacts, quantityError, refuseErrors, type ItemFacts } from '../../documents/lines';
import { lock } from '../../ledger/lock';
import { chosenBy } from './queries';

type Done = Record<string, never>;
type At = ParamsOf<typeof contract.takeBin>;

/** A bin on a sheet as it is now, held until this is done. Refuses one of a sheet that has ended. */
export async function held(act: Act, { id, placeId }: At) {
  const { db } = act.tx;
  const [sheet] = await db.select().from(countSheet).where(eq(countSheet.id, id));
  const [bin] = await db
    .select()
    .from(countBin)
    .where(and(eq(countBin.sheetId, id), eq(countBin.placeId, placeId)))
    .for('update');
  if (!sheet || !bin) throw new Refusal(404, 'not-found', 'That bin is not on this count.');
  act.allow('stock.count', sheet.siteId);
  if (sheet.closedAt !== null) throw new Refusal(409, 'count-ended', `${sheet.number} has ended; nothing more is counted on it.`);
  const [where] = await db.select({ code: place.code, retiredAt: place.retiredAt }).from(place).where(eq(place.id, placeId));
  return { sheet, bin, code: where?.code ?? '', isRetired: where?.retiredAt !== null };
}
type Held = Awaited<ReturnType<typeof held>>;

/** Refuses a bin that was retired meanwhile, and one that somebody else is counting. */
export async function refuseOthers(act: Act, { bin, code, isRetired }: Held, over = false): Promise<void> {
  if (isRetired) throw new Refusal(409, 'place-retired', `${code} was retired meanwhile: nothing lies there, and it need not be counted.`);
  if (bin.heldBy === null || bin.heldBy === act.by.id || over) return;
  const [who] = await act.tx.db.select({ name: person.name }).from(person).where(eq(person.id, bin.heldBy));
  throw new Refusal(409, 'bin-held', `${who?.name ?? 'Somebody else'} is counting ${code}.`, [], ['take-over']);
}

/** Begins a bin, which nobody else counts then; `over` takes it from whoever has it. */
export async function takeBin(act: Act, at: At, over: boolean): Promise<Done> {
  const now = await held(act, at);
  await refuseOthers(act, now, over);
  await act.tx.db.update(countBin).set({ heldBy: act.by.id, heldAt: act.now.toISOString() }).where(eq(countBin.id, now.bin.id));
  return {};
}

export async function leaveBin(act: Act, at: At): Promise<Done> {
  const { bin } = await held(act, at);
  if (bin.heldBy === act.by.id) await act.tx.db.update(countBin).set({ heldBy: null }).where(eq(countBin.id, bin.id));
  return {};
}

type Entry = BodyOf<typeof contract.enterCount>['entries'][number];

/** What lies there now of things that were counted, as it is read under the locks of their pools: their last movement, and whether something moved there after another. */
async function readThere({ tx: { db } }: Act, placeId: number, things: readonly { itemId: number; lotId: number | null; since: number | null }[]) {
  const { rows: asked, row } = given(
    'asked',
    { at: movementLine.seq, itemId: balance.itemId, lotId: orNull(balance.lotId), since: orNull(movementLine.seq) },
    things.map(({ itemId, lotId, since }, at) => ({ at, itemId, lotId, since })),
  );
  const quantity = db
    .select({ quantity: balance.quantity })
    .from(balance)
    .where(and(eq(balance.itemId, row.itemId), eq(balance.placeId, placeId), sql`${balance.lotId} is not distinct from ${row.lotId}`));
  const moved = db
    .select({ one: sql`1` })
    .from(movementLine)
    .where(
      and(
        eq(movementLine.itemId, row.itemId),
        gt(movementLine.seq, row.since),
        sql`${movementLine.lotId} is not distinct from ${row.lotId}`,
        or(eq(movementLine.fromPlaceId, placeId), eq(movementLine.toPlaceId, placeId)),
      ),
    );
  return db
    .select({
      quantity: sql<string>`coalesce((${quantity}), 0)::text`,
      seq: costPool.lastSeq,
      unitCost: costPool.unitCost,
      moved: sql<boolean>`exists (${moved})`,
    })
    .from(asked)
    .innerJoin(costPool, eq(costPool.itemId, row.itemId))
    .orderBy(row.at);
}

/** Keeps what somebody counted, measured against what the bin holds at this moment. */
export async function enterCount(act: Act, at: At, { entries }: BodyOf<typeof contract.enterCount>): Promise<Done> {
  const now = await held(act, at);
  await refuseOthers(act, now);
  const { bin, sheet, code } = now;
  if (bin.doneAt !== null) throw new Refusal(409, 'bin-done', `${code} is counted already. Have it counted again if something is not right.`);
  const { db } = act.tx;
  const { items } = await lineFacts(
    act,
    entries.map(({ itemId }) => itemId),
  );
  const onSheet = sheet.restricted ? await db.select({ itemId: countItem.itemId }).from(countItem).where(eq(countItem.sheetId, sheet.id)) : null;
  const chosen = onSheet && new Set(onSheet.map(({ itemId }) => itemId));
  const others = await serialsElsewhere(act, sheet.id, bin.id, entries);
  const lots = await lotsOf(act, entries);
  refuseErrors(entries.flatMap((entry, index) => entryErrors(entry, index, { item: items.get(entry.itemId), chosen, others, lots, number: sheet.number })));
  await lock.pools(
    act,
    entries.map(({ itemId }) => itemId),
  );
  const there = await readThere(
    act,
    at.placeId,
    entries.map(({ itemId, lotId, seq }) => ({ itemId, lotId, since: seq })),
  );
  const before = await db.select().from(countLine).where(eq(countLine.binId, bin.id));
  for (const [index, entry] of entries.entries()) {
    const found = there[index];
    if (!found) throw new Error('an item has a pool');
    await keep(
      act,
      bin.id,
      entry,
      found,
      before.find(({ itemId, lotId }) => itemId === entry.itemId && lotId === entry.lotId),
    );
  }
  if (bin.heldBy === null) await db.update(countBin).set({ heldBy: act.by.id, heldAt: act.now.toISOString() }).where(eq(countBin.id, bin.id));
  return {};
}

type There = Awaited<ReturnType<typeof readThere>>[number];

/** Writes one line: a total that was typed is of this moment; what is scanned one by one began with its first scan. */
async function keep(act: Act, binId: number, entry: Entry, { quantity, seq, moved }: There, before: typeof countLine.$inferSelect | undefined): Promise<void> {
  const { db } = act.tx;
  if (before?.settledAt) throw new Refusal(409, 'settled', 'This was posted already; plan another count of it.');
  const again = before?.recount !== null && before !== undefined;
  const goesOn = entry.way === 'scanned' && before !== undefined && !again;
  const values = {
    counted: entry.quantity,
    expected: quantity,
    seq,
    scannedSince: entry.way === 'typed' ? null : goesOn ? (before.scannedSince ?? before.seq) : (entry.seq ?? seq),
    countedAt: act.now.toISOString(),
    countedBy: act.by.id,
    rounds: (before?.rounds ?? 1) + (again ? 1 : 0),
    recount: (entry.seq !== null && moved && entry.way === 'typed' ? 'late' : null) as RecountWhy | null,
  };
  const [line] = before
    ? await db.update(countLine).set(values).where(eq(countLine.id, before.id)).returning({ id: countLine.id })
    : await db
        .insert(countLine)
        .values({ binId, itemId: entry.itemId, lotId: entry.lotId, ...values })
        .returning({ id: countLine.id });
  if (entry.way === 'typed') await writeEntries(act, [{ lineId: line?.id as number, counted: entry.quantity, expected: quantity, seq }]);
}

const writeEntries = (act: Act, entries: readonly { lineId: number; counted: string; expected: string; seq: number }[]): Promise<void> =>
  insertRows(
    act.tx,
    countEntry,
    entries.map((one) => ({ ...one, at: act.now.toISOString(), personId: act.by.id })),
  );

/** Serials that were counted in other bins of the same sheet: one unit is in one place. */
const serialsElsewhere = ({ tx: { db } }: Act, sheetId: number, binId: number, entries: readonly Entry[]) =>
  db
    .select({ lotId: countLine.lotId, bin: place.code })
    .from(countLine)
    .innerJoin(countBin, eq(countBin.id, countLine.binId))
    .innerJoin(place, eq(place.id, countBin.placeId))
    .innerJoin(lot, and(eq(lot.id, countLine.lotId), eq(lot.kind, 'serial')))
    .where(
      and(
        eq(countBin.sheetId, sheetId),
        ne(countBin.id, binId),
        sql`${countLine.counted} > 0`,
        among(
          countLine.lotId,
          entries.flatMap(({ lotId }) => lotId ?? []),
        ),
      ),
    );
const lotsOf = ({ tx: { db } }: Act, entries: readonly Entry[]) =>
  db
    .select({ id: lot.id, itemId: lot.itemId, kind: lot.kind, code: lot.code })
    .from(lot)
    .where(
      among(
        lot.id,
        entries.flatMap(({ lotId }) => lotId ?? []),
      ),
    );

interface Known {
  item: ItemFacts | undefined;
  chosen: ReadonlySet<number> | null;
  others: Awaited<ReturnType<typeof serialsElsewhere>>;
  lots: Awaited<ReturnType<typeof lotsOf>>;
  number: string;
}

function entryErrors(entry: Entry, index: number, { item, chosen, others, lots, number }: Known): FieldError[] {
  const at = (field: string, sentence: string): FieldError[] => [{ field: `entries.${index}.${field}`, sentence }];
  if (!item) return at('itemId', 'There is no such item.');
  if (!item.stocked) return at('itemId', `${item.sku} is not kept in stock: there is nothing of it to count.`);
  if (chosen && !chosen.has(item.id)) return at('itemId', `${item.sku} is not among what ${number} counts.`);
  if ((item.tracking !== 'none') !== (entry.lotId !== null))
    return at('lotId', item.tracking === 'none' ? `${item.sku} is kept without lots or serials.` : `Say which ${item.tracking} of ${item.sku}.`);
  const one = lots.find(({ id }) => id === entry.lotId);
  if (entry.lotId !== null && one?.itemId !== item.id) return at('lotId', `${item.sku} has no such ${item.tracking}.`);
  if (one?.kind === 'serial' && decimal(entry.quantity).gt(1)) return at('quantity', `${one.code} is one unit: there is one of it, or none.`);
  const elsewhere = others.find(({ lotId }) => lotId === entry.lotId);
  if (elsewhere && decimal(entry.quantity).gt(0)) return at('lotId', `${one?.code ?? ''} was counted in ${elsewhere.bin} already: one unit is in one place.`);
  const fault = quantityError(item, entry.quantity, `entries.${index}.quantity`, true);
  return fault ? [fault] : [];
}

/** Ends a bin: what was scanned is measured once more, and what moved meanwhile or differs much is asked for again. Answers how many lines are. */
export async function finishBin(act: Act, at: At, restIsNone: boolean): Promise<{ recount: number }> {
  const now = await held(act, at);
  await refuseOthers(act, now);
  const { db } = act.tx;
  const { bin, sheet, code } = now;
  if (bin.doneAt !== null) throw new Refusal(409, 'bin-done', `${code} is counted already.`);
  if (restIsNone) await noteNone(act, at.placeId, now);
  const lines = await db.select().from(countLine).where(eq(countLine.binId, bin.id)).orderBy(countLine.id);
  if (lines.length === 0 && (await db.$count(balance, lyingThere(at.placeId, sheet))) > 0)
    throw refuseField(422, 'nothing-counted', 'restIsNone', `Nothing was counted in ${code} yet. Say that it is empty if it is.`);
  await lock.pools(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const there = await readThere(
    act,
    at.placeId,
    lines.map(({ itemId, lotId, scannedSince, seq }) => ({ itemId, lotId, since: scannedSince ?? seq })),
  );
  const limits: RecountLimits = {
    share: sheet.recountShare === null ? null : decimal(sheet.recountShare),
    value: sheet.recountValue === null ? null : decimal(sheet.recountValue),
  };
  let recount = 0;
  for (const [index, line] of lines.entries()) {
    const found = there[index];
    if (!found || line.settledAt !== null) continue;
    const isScanned = line.scannedSince !== null;
    const moved = isScanned && found.moved;
    // What was scanned and did not move is as it was at the first scan.
    const measured = isScanned && !moved ? { expected: found.quantity, seq: found.seq } : { expected: line.expected, seq: line.seq };
    const why = recountOf(
      {
        counted: decimal(line.counted),
        expected: decimal(measured.expected),
        rounds: line.rounds,
        moved,
        late: line.recount === 'late',
        unitCost: decimal(found.unitCost ?? '0'),
      },
      limits,
    );
    if (why !== null) recount += 1;
    await db
      .update(countLine)
      .set({ ...measured, scannedSince: null, recount: why })
      .where(eq(countLine.id, line.id));
    if (isScanned) await writeEntries(act, [{ lineId: line.id, counted: line.counted, ...measured }]);
  }
  const done = recount === 0 ? { doneAt: act.now.toISOString(), doneBy: act.by.id } : {};
  await db
    .update(countBin)
    .set({ ...done, heldBy: recount === 0 ? null : act.by.id })
    .where(eq(countBin.id, bin.id));
  return { recount };
}

/** What lies in a bin of what the sheet counts. */
const lyingThere = (placeId: number, sheet: { id: number; restricted: boolean }) =>
  and(eq(balance.placeId, placeId), notNone(balance.quantity), sheet.restricted ? chosenBy(sheet.id, balance.itemId) : undefined);

/** What should lie there and was not counted is said not to be there. */
async function noteNone(act: Act, placeId: number, { bin, sheet }: Held): Promise<void> {
  const { db } = act.tx;
  const counted = new QueryBuilder()
    .select({ one: sql`1` })
    .from(countLine)
    .where(and(eq(countLine.binId, bin.id), eq(countLine.itemId, balance.itemId), sql`${countLine.lotId} is not distinct from ${balance.lotId}`));
  const rest = await db
    .select({ itemId: balance.itemId, lotId: balance.lotId })
    .from(balance)
    .where(and(lyingThere(placeId, sheet), sql`not exists (${counted})`))
    .orderBy(balance.itemId);
  await lock.pools(
    act,
    rest.map(({ itemId }) => itemId),
  );
  const there = await readThere(
    act,
    placeId,
    rest.map((one) => ({ ...one, since: null })),
  );
  for (const [index, one] of rest.entries()) {
    const found = there[index];
    if (found) await keep(act, bin.id, { ...one, quantity: '0', way: 'typed', seq: null }, found, undefined);
  }
}
