import { lotFaults, type LotEntry, type Tracking } from '@larder/core/stock/lots';
import { decimal } from '@larder/core/decimal';
import { overLots } from '@larder/core/ledger/overLots';
import type { MovementLine, Valuation } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, exists, sql } from 'drizzle-orm';
import type { Act } from '../act';
import { among, given, insertRows, positive } from '../db/given';
import { balance, item, lot, place, site } from '../db/schema/index';
import { placeInWords } from '../db/text';

/** What something is called in a list of things: a unit by its serial, anything else by its item, with its lot. */
export const unitOrItem = sql<string>`case when ${lot.kind} = 'serial' then ${lot.code} else concat_ws(' ', ${item.sku}, ${lot.code}) end`;

/** Goods coming in, with their lots or serials as they were typed. */
export interface ComingIn {
  itemId: number;
  sku: string;
  tracking: Tracking;
  lots: readonly LotEntry[];
  /** Path of its lots in the request. */
  lotsField: string;
  /** The whole of the line; it is split over its lots. */
  line: MovementLine;
}

/** How many lots or serials one posting may bring in. */
const mostLots = 5000;

/** Movement lines of goods coming in: one for each lot or serial, the value spread over them by quantity. Lots that are new are made; a serial that is somewhere already is refused. */
export async function linesByLot(act: Act, coming: readonly ComingIn[]): Promise<MovementLine[]> {
  let count = 0;
  const over = coming.find(({ lots }) => (count += lots.length) > mostLots);
  if (over)
    throw refuseField(
      422,
      'too-many-lots',
      over.lotsField,
      `That is more than ${mostLots.toLocaleString('en-GB')} lots or serials at once. Post what is there so far first.`,
    );
  const faults = coming.flatMap(({ tracking, sku, lots, line, lotsField }) => lotFaults(tracking, sku, line.quantity, lots, lotsField));
  if (faults[0]) throw new Refusal(422, 'lots-missing', faults[0].sentence, faults);
  const entries = coming.flatMap(({ itemId, sku, tracking, lots: typed, lotsField }): Entry[] =>
    tracking === 'none' ? [] : typed.map((one, index) => ({ ...one, itemId, kind: tracking, sku, field: `${lotsField}.${index}` })),
  );
  refuseTwice(entries);
  const lots = await knownLots(act, entries);
  let next = 0;
  return coming.flatMap(({ tracking, lots: typed, line }): MovementLine[] => {
    if (tracking === 'none') return [line];
    const quantities = typed.map((one) => decimal(one.quantity));
    const valuations = overLots(line.valuation, quantities);
    return quantities.map((quantity, index) => ({
      ...line,
      ...(lots[next++] as { lotId: number; pastUse: boolean }),
      quantity,
      valuation: valuations[index] as Valuation,
    }));
  });
}

/** Goods whose use-by day has passed are taken only when the person says so. */
export function refusePastUse({ today }: Act, lines: readonly { lots: readonly LotEntry[] }[], agreed: boolean): void {
  if (agreed) return;
  lines.forEach(({ lots }, index) => {
    const at = lots.findIndex(({ useBy }) => useBy !== null && useBy < today);
    const past = lots[at];
    if (past)
      throw refuseField(
        409,
        'past-use-by',
        `lines.${index}.lots.${at}.useBy`,
        `The use-by day of lot ${past.code}, ${past.useBy}, has passed. Take it all the same?`,
        ['past-use-by'],
      );
  });
}

interface Entry extends LotEntry {
  itemId: number;
  kind: 'lot' | 'serial';
  sku: string;
  field: string;
}

/** A serial is in one place: it cannot come in on two lines at once. */
function refuseTwice(entries: readonly Entry[]): void {
  const seen = new Set<string>();
  for (const { itemId, kind, code, sku, field } of entries.filter((entry) => entry.kind === 'serial')) {
    const serial = `${itemId}/${kind}/${code.toLowerCase()}`;
    if (seen.has(serial)) throw refuseField(422, 'serial-twice', `${field}.code`, `${sku} ${code} stands on another line already.`);
    seen.add(serial);
  }
}

/** Lots by item and code, and whether their use-by day has passed; those that are new are made. A preview writes nothing: there the new ones have ids below zero. */
async function knownLots(act: Act, entries: readonly Entry[]): Promise<{ lotId: number; pastUse: boolean }[]> {
  if (entries.length === 0) return [];
  await refuseTags(act, entries);
  if (!act.tx.readOnly)
    await insertRows(
      act.tx,
      lot,
      entries.map(({ itemId, kind, code, useBy, tag }) => ({ itemId, kind, code, useBy, tag: tag ?? null, pastUse: useBy !== null && useBy < act.today })),
      sql`on conflict (item_id, lower(code)) do nothing`,
    );
  const known = await whereLotsAre(act, entries);
  const faults = known.flatMap((row): FieldError[] => {
    const entry = entries[row.at] as Entry;
    if (row.where) return [{ field: `${entry.field}.code`, sentence: `${entry.sku} ${entry.code} ${whereSaid(row.where, row.ours === true)}` }];
    if (row.id !== null && row.useBy !== null && entry.useBy !== null && row.useBy !== entry.useBy)
      return [{ field: `${entry.field}.useBy`, sentence: `Lot ${entry.code} of ${entry.sku} has the use-by day ${row.useBy}.` }];
    return [];
  });
  if (faults[0]) throw new Refusal(409, 'lot-known', faults[0].sentence, faults);
  if (!act.tx.readOnly) await giveTags(act, entries, known);
  return known.map(({ id, pastUse, at }, index) => {
    const { useBy } = entries[at] as Entry;
    return { lotId: id ?? -(index + 1), pastUse: pastUse ?? (useBy !== null && useBy < act.today) };
  });
}

/** The lots of the entries, in their order, those that are known; of a serial where it lies. */
async function whereLotsAre({ tx: { db } }: Act, entries: readonly Entry[]) {
  const { rows, row } = given(
    'entry',
    { at: lot.id, itemId: lot.itemId, code: lot.code },
    entries.map(({ itemId, code }, at) => ({ at, itemId, code })),
  );
  const lying = db
    .select({ one: sql`1` })
    .from(balance)
    .where(and(eq(balance.itemId, lot.itemId), eq(balance.lotId, lot.id), eq(balance.placeId, place.id), positive(balance.quantity)));
  return db
    .select({
      at: row.at,
      id: lot.id,
      useBy: lot.useBy,
      pastUse: lot.pastUse,
      where: sql<string | null>`case when ${lot.kind} = 'serial' then ${placeInWords(place, site)} end`,
      ours: place.owned,
    })
    .from(rows)
    .leftJoin(lot, and(eq(lot.itemId, row.itemId), sql`lower(${lot.code}) = lower(${row.code})`))
    .leftJoin(place, and(eq(place.id, lot.placeId), exists(lying)))
    .leftJoin(site, eq(site.id, place.siteId))
    .orderBy(row.at);
}

/** A serial comes in only from where it lies: one that is here, or that somebody else has, is not taken in as new. */
const whereSaid = (where: string, ours: boolean): string =>
  ours ? `is here already: ${where}.` : `is known and lies at ${where}. Bring it back from there: undo what took it there, or find it by a correction.`;

/** A tag is on one unit only. */
async function refuseTags({ tx }: Act, entries: readonly Entry[]): Promise<void> {
  const tags = entries.flatMap(({ tag }) => (tag === undefined ? [] : [tag.toLowerCase()]));
  if (tags.length === 0) return;
  const taken = await tx.db
    .select({ tag: sql<string>`lower(${lot.tag})`, itemId: lot.itemId, sku: item.sku, code: lot.code })
    .from(lot)
    .innerJoin(item, eq(item.id, lot.itemId))
    .where(among(sql`lower(${lot.tag})`, tags));
  const byTag = new Map(taken.map((row) => [row.tag, row]));
  const faults = entries.flatMap(({ tag, itemId, code, field }): FieldError[] => {
    const other = byTag.get(tag?.toLowerCase() ?? '');
    return other && (other.itemId !== itemId || other.code.toLowerCase() !== code.toLowerCase())
      ? [{ field: `${field}.tag`, sentence: `${tag ?? ''} is the tag of ${other.sku} ${other.code} already.` }]
      : [];
  });
  if (faults[0]) throw new Refusal(409, 'code-in-use', faults[0].sentence, faults);
}

/** Units that were known and come in again take the tag they are given now. */
async function giveTags({ tx }: Act, entries: readonly Entry[], known: readonly { at: number; id: number | null }[]): Promise<void> {
  const tags = known.flatMap(({ at, id }) => {
    const { tag } = entries[at] as Entry;
    return tag === undefined || id === null ? [] : [{ id, tag }];
  });
  if (tags.length === 0) return;
  const { rows, row } = given('tagged', { id: lot.id, tag: lot.tag }, tags);
  await tx.db
    .update(lot)
    .set({ tag: row.tag, version: sql`${lot.version} + 1` })
    .from(rows)
    .where(and(eq(lot.id, row.id), sql`${lot.tag} is distinct from ${row.tag}`));
}
