import type * as contract from '@larder/contract/counts';
import type { BodyOf, ResponseOf } from '@larder/contract/endpoint';
import { decimal, quantityText, zero, type Decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among, insertRows, updateRows } from '../../db/given';
import { balance, binCount, company, countBin, countLine, countSheet, item, lot, place } from '../../db/schema/index';
import { clearDoubts } from '../../documents/doubts';
import { heldThen } from '../../documents/heldThen';
import { refuseErrors } from '../../documents/lines';
import { placesOfReasons } from '../../documents/reasons';
import { post, type Posting } from '../../ledger/door';

type Done = Record<string, never>;

/** A sheet, held until this is done, whose differences the person may settle. */
async function sheetOf(act: Act, id: number): Promise<typeof countSheet.$inferSelect> {
  const reading = act.tx.db.select().from(countSheet).where(eq(countSheet.id, id));
  const [sheet] = act.tx.readOnly ? await reading : await reading.for('update');
  if (!sheet) throw new Refusal(404, 'not-found', 'There is no such count.');
  act.allow('stock.correct', sheet.siteId);
  if (sheet.closedAt !== null) throw new Refusal(409, 'count-ended', `${sheet.number} has ended.`);
  return sheet;
}

/** Has lines counted again: their bins are open until that is done. */
export async function askRecount(act: Act, id: number, lineIds: readonly number[]): Promise<Done> {
  const sheet = await sheetOf(act, id);
  const { db } = act.tx;
  const mine = db.select({ id: countBin.id }).from(countBin).where(eq(countBin.sheetId, sheet.id));
  const asked = await db
    .update(countLine)
    .set({ recount: 'asked' })
    .where(and(among(countLine.id, lineIds), inArray(countLine.binId, mine), isNull(countLine.settledAt)))
    .returning({ binId: countLine.binId });
  if (asked.length === 0) throw refuseField(409, 'settled', 'lineIds', 'These were posted already; plan another count of them.');
  await db
    .update(countBin)
    .set({ doneAt: null, doneBy: null, heldBy: null })
    .where(
      among(
        countBin.id,
        asked.map(({ binId }) => binId),
      ),
    );
  return {};
}

/** Lines of a sheet that may be settled, with what is known of them. */
const readLines = ({ tx: { db } }: Act, sheetId: number) =>
  db
    .select({
      id: countLine.id,
      itemId: countLine.itemId,
      lotId: countLine.lotId,
      placeId: countBin.placeId,
      bin: place.code,
      retired: sql<boolean>`${place.retiredAt} is not null`,
      siteId: sql<number>`${place.siteId}`,
      sku: item.sku,
      counted: countLine.counted,
      seq: countLine.seq,
      recount: countLine.recount,
      settledAt: countLine.settledAt,
      done: sql<boolean>`${countBin.doneAt} is not null`,
      countedOn: sql<string>`(${countLine.countedAt} at time zone ${company.timeZone})::date::text`,
      serial: sql<boolean>`coalesce(${lot.kind} = 'serial', false)`,
      lot: lot.code,
      /** Of a serial: where it is by the records. */
      liesIn: lot.placeId,
      now: sql<string>`coalesce((${db
        .select({ quantity: balance.quantity })
        .from(balance)
        .where(
          and(eq(balance.itemId, countLine.itemId), eq(balance.placeId, countBin.placeId), sql`${balance.lotId} is not distinct from ${countLine.lotId}`),
        )}), 0)::text`,
    })
    .from(countLine)
    .innerJoin(countBin, eq(countBin.id, countLine.binId))
    .innerJoin(place, eq(place.id, countBin.placeId))
    .innerJoin(item, eq(item.id, countLine.itemId))
    .crossJoin(company)
    .leftJoin(lot, eq(lot.id, countLine.lotId))
    .where(eq(countBin.sheetId, sheetId))
    .orderBy(countLine.id);
type Line = Awaited<ReturnType<typeof readLines>>[number];
interface Settled extends Line {
  difference: Decimal;
  reasonId: number;
}

/** Posts what was counted: of each line its difference to what the bin held when it was counted, so that what moved since is not cancelled. */
export async function postCount(act: Act, id: number, form: BodyOf<typeof contract.postCount>): Promise<ResponseOf<typeof contract.postCount>> {
  const sheet = await sheetOf(act, id);
  const all = await readLines(act, id);
  const named = new Map(form.lines.map((line) => [line.id, line.reasonId]));
  const chosen =
    form.lines.length > 0 ? all.filter((line) => named.has(line.id)) : all.filter((line) => line.settledAt === null && line.done && line.recount === null);
  refuseErrors(chosen.flatMap((line) => notYet(line)));
  if (chosen.length === 0 || (form.lines.length > 0 && chosen.length < named.size))
    throw refuseField(422, 'nothing-to-post', 'lines', 'Nothing of this is counted and not posted yet.');
  const held = await heldThen(
    act,
    chosen.map(({ itemId, lotId, placeId, seq }) => ({ itemId, lotId, binId: placeId, seq })),
  );
  const lines = chosen.map((line, index): Settled => ({
    ...line,
    difference: decimal(line.counted).minus(held[index]?.held ?? zero),
    reasonId: named.get(line.id) ?? form.reasonId,
  }));
  refuseErrors(lines.flatMap((line, index) => cannotBe(line, held[index]?.countedLater ?? null)));
  const posted = await postByReason(act, lines, `${sheet.number}${form.note === '' ? '' : `: ${form.note}`}`);
  if (!act.tx.readOnly) await settle(act, sheet, all, lines, posted.movements);
  const differing = lines.filter((line) => !line.difference.isZero()).length;
  return { movementId: posted.first.movementId, effects: posted.first.effects, posted: differing, agreed: lines.length - differing };
}

const fault = ({ id }: Line, sentence: string): FieldError[] => [{ field: `lines.${id}`, sentence }];

function notYet(line: Line): FieldError[] {
  const what = `${line.lot ?? line.sku} in ${line.bin}`;
  if (line.settledAt !== null) return fault(line, `${what} was posted already.`);
  if (line.recount !== null) return fault(line, `${what} is to be counted again first.`);
  return line.done ? [] : fault(line, `${line.bin} is not counted whole yet.`);
}

/** What was counted again since, or would take a bin below nothing, is to be counted once more. */
function cannotBe(line: Settled, countedLater: string | null): FieldError[] {
  const what = `${line.lot ?? line.sku} in ${line.bin}`;
  if (countedLater !== null) return fault(line, `${what} was counted again on ${countedLater}; have it counted once more, or leave it out.`);
  if (line.retired && line.difference.gt(0)) return fault(line, `${line.bin} was retired meanwhile: nothing can lie there.`);
  if (decimal(line.now).plus(line.difference).lt(0))
    return fault(
      line,
      `${line.bin} holds ${quantityText(line.now)} of ${line.sku} now, and ${quantityText(line.difference.abs())} are missing by this count. Count it once more.`,
    );
  return [];
}

interface Posted {
  first: Posting;
  /** The posting of each line, by its id. */
  movements: Map<number, number>;
}

/** One posting for each reason. Of a unit that lies elsewhere by the records, one line is found and another lacks it: one move does for both. */
async function postByReason(act: Act, lines: readonly Settled[], note: string): Promise<Posted> {
  const differing = lines.filter(({ difference: by }) => !by.isZero());
  const lyingIn = await binsOfSerials(act, lines);
  const found = differing.filter(({ id }) => lyingIn.has(id));
  const lacked = (line: Settled) => found.find(({ lotId, id }) => line.difference.lt(0) && lotId === line.lotId && lyingIn.get(id) === line.placeId);
  const goods = differing.filter((line) => !lacked(line));
  const reasons = [...new Set(goods.map(({ reasonId }) => reasonId))];
  const places = new Map(
    (await placesOfReasons(act.tx, { ids: reasons })).flatMap((one) => (one.place === 'customer' ? [] : [[one.id, one.placeId] as const])),
  );
  const movements = new Map<number, number>();
  const postings: Posting[] = [];
  for (const reasonId of reasons) {
    const outside = places.get(reasonId);
    if (outside === undefined) throw refuseField(422, 'no-such-reason', 'reasonId', 'Choose a reason from the list.');
    const mine = goods.filter((line) => line.reasonId === reasonId);
    const posting = await post(act, {
      kind: 'correction',
      effectiveOn: act.today,
      lines: mine.map((line) => movementLine(line, lyingIn.get(line.id) ?? outside)),
      reasonId,
      reversesId: null,
      note,
      countedAgreed: true,
    });
    if (posting.movementId !== null) for (const { id } of mine) movements.set(id, posting.movementId);
    postings.push(posting);
  }
  for (const line of differing) {
    const movementId = movements.get(lacked(line)?.id ?? 0);
    if (movementId !== undefined) movements.set(line.id, movementId);
  }
  return { first: together(postings), movements };
}

const nothing: Posting = {
  movementId: null,
  effects: { rows: [], notes: ['All of it agrees: nothing is posted, and the bins count as looked at.'], costNotes: [] },
};
/** What several postings change, as one. */
const together = (postings: readonly Posting[]): Posting => {
  const [first] = postings;
  if (!first) return nothing;
  const all = <T>(of: (effects: Posting['effects']) => readonly T[]): T[] => postings.flatMap(({ effects }) => [...of(effects)]);
  return {
    movementId: first.movementId,
    effects: { rows: all(({ rows }) => rows), notes: all(({ notes }) => notes), costNotes: all(({ costNotes }) => costNotes) },
  };
};

const movementLine = ({ id, itemId, lotId, placeId, difference: by }: Settled, otherId: number): MovementLine => ({
  itemId,
  lotId,
  quantity: by.abs(),
  fromPlaceId: by.gt(0) ? otherId : placeId,
  toPlaceId: by.gt(0) ? placeId : otherId,
  valuation: { by: 'current' },
  serves: [],
  field: `lines.${id}`,
});

/** By the line: the bin where a serial that was found lies by the records; it comes from there. Refuses one that is somewhere it cannot have come from. */
async function binsOfSerials({ tx: { db } }: Act, lines: readonly Settled[]): Promise<Map<number, number>> {
  const found = lines.filter((line) => line.serial && line.difference.gt(0) && line.liesIn !== null && line.liesIn !== line.placeId);
  const places = await db
    .select({ id: place.id, kind: place.kind, siteId: place.siteId, code: place.code, name: place.name, owned: place.owned })
    .from(place)
    .where(
      among(
        place.id,
        found.flatMap(({ liesIn }) => liesIn ?? []),
      ),
    );
  const at = (line: Settled) => places.find(({ id }) => id === line.liesIn);
  const cannot = (line: Settled): boolean => {
    const lies = at(line);
    return lies !== undefined && (lies.kind === 'customer' || lies.kind === 'supplier' || (lies.owned && (lies.kind !== 'bin' || lies.siteId !== line.siteId)));
  };
  refuseErrors(
    found
      .filter(cannot)
      .flatMap((line) =>
        fault(line, `${line.lot ?? ''} is ${placeWords(at(line))} by the records, so it cannot be found in ${line.bin}; put that right first.`),
      ),
  );
  return new Map(found.flatMap((line) => (at(line)?.kind === 'bin' ? [[line.id, line.liesIn as number] as const] : [])));
}

const placeWords = (at: { kind: string; code: string; name: string } | undefined): string =>
  at?.kind === 'bin' ? `in ${at.code} of another site` : `at ${at?.name || at?.code || ''}`;

/** Keeps that lines are settled, and that their bins were looked at. A sheet of which all is counted and settled has ended. */
async function settle(
  act: Act,
  sheet: typeof countSheet.$inferSelect,
  all: readonly Line[],
  lines: readonly Settled[],
  movements: ReadonlyMap<number, number>,
): Promise<void> {
  const { db } = act.tx;
  const now = act.now.toISOString();
  const settled = lines.map(({ id, difference, reasonId }) => {
    const movementId = movements.get(id) ?? null;
    return { id, posted: difference.toFixed(), movementId, reasonId: movementId === null ? null : reasonId };
  });
  await updateRows(act.tx, countLine, settled, { settledAt: now, settledBy: act.by.id });
  await insertRows(
    act.tx,
    binCount,
    lines.map(({ id, itemId, lotId, placeId, counted, seq, countedOn }) => ({
      itemId,
      lotId,
      placeId,
      quantity: counted,
      seq,
      countedOn,
      movementId: movements.get(id) ?? null,
    })),
  );
  await clearDoubts(act, lines);
  const open = await db.$count(countBin, and(eq(countBin.sheetId, sheet.id), isNull(countBin.doneAt)));
  if (open === 0 && all.every((line) => line.settledAt !== null || lines.some(({ id }) => id === line.id))) await end(act, sheet.id);
}

const end = async ({ tx: { db }, now, by }: Act, id: number): Promise<void> => {
  await db.update(countSheet).set({ closedAt: now.toISOString(), closedBy: by.id }).where(eq(countSheet.id, id));
};

/** Ends a count; what was not posted stays as it is. */
export async function closeCount(act: Act, id: number): Promise<Done> {
  const sheet = await sheetOf(act, id);
  await end(act, sheet.id);
  return {};
}
