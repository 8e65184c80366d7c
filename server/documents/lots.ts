import { lotFaults, type LotEntry, type Tracking } from '@larder/core/stock/lots';
import { decimal, spread, type Decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import type { Act } from '../act';

/** Goods coming in, with their lots or serials as they were typed. */
export interface ComingIn {
  itemId: number;
  sku: string;
  tracking: Tracking;
  lots: readonly LotEntry[];
  /** Path of its lots in the request. */
  lotsField: string;
  /** The whole of the line; it is split over its lots. */
  line: MovementLine & { valuation: { by: 'stated'; value: Decimal } };
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
  const entries = coming.flatMap((one) =>
    one.lots.map((lot, index) => ({ ...lot, itemId: one.itemId, kind: one.tracking, sku: one.sku, field: `${one.lotsField}.${index}` })),
  );
  refuseTwice(entries);
  const lots = await knownLots(act, entries);
  let next = 0;
  return coming.flatMap(({ tracking, lots: typed, line }): MovementLine[] => {
    if (tracking === 'none') return [line];
    const quantities = typed.map((lot) => decimal(lot.quantity));
    const values = spread(line.valuation.value, quantities);
    return quantities.map((quantity, index) => ({
      ...line,
      ...(lots[next++] as { lotId: number; pastUse: boolean }),
      quantity,
      valuation: { by: 'stated', value: values[index] as Decimal },
    }));
  });
}

/** Goods whose use-by day has passed are taken only when the person says so. */
export function refusePastUse({ today }: Act, lines: readonly { lots: readonly LotEntry[] }[], agreed: boolean): void {
  if (agreed) return;
  lines.forEach(({ lots }, index) => {
    const at = lots.findIndex(({ useBy }) => useBy !== null && useBy < today);
    const lot = lots[at];
    if (lot)
      throw refuseField(
        409,
        'past-use-by',
        `lines.${index}.lots.${at}.useBy`,
        `The use-by day of lot ${lot.code}, ${lot.useBy}, has passed. Take it all the same?`,
        ['past-use-by'],
      );
  });
}

interface Entry extends LotEntry {
  itemId: number;
  kind: string;
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
    await act.tx.rows(
      `INSERT INTO lot (item_id, kind, code, use_by, tag, past_use) SELECT x.*, coalesce(x.use_by < $6, false) FROM unnest($1::int[], $2::text[], $3::text[], $4::date[], $5::text[]) x(item, kind, code, use_by, tag) ON CONFLICT (item_id, lower(code)) DO NOTHING`,
      [
        entries.map((one) => one.itemId),
        entries.map((one) => one.kind),
        entries.map((one) => one.code),
        entries.map((one) => one.useBy),
        entries.map((one) => one.tag ?? null),
        act.today,
      ],
    );
  const known = await act.tx.rows<{ at: number; id: number | null; useBy: string | null; pastUse: boolean | null; where: string | null; ours: boolean | null }>(
    `SELECT x.at::int - 1 AS at, l.id, l.use_by AS "useBy", l.past_use AS "pastUse", CASE WHEN l.kind = 'serial' THEN concat_ws(' ', s.name, p.code) END AS where, p.owned AS ours
     FROM unnest($1::int[], $2::text[]) WITH ORDINALITY x(item, code, at) LEFT JOIN lot l ON l.item_id = x.item AND lower(l.code) = lower(x.code)
      LEFT JOIN place p ON p.id = l.place_id AND EXISTS (SELECT 1 FROM balance b WHERE b.item_id = l.item_id AND b.lot_id = l.id AND b.place_id = p.id AND b.quantity > 0) LEFT JOIN site s ON s.id = p.site_id ORDER BY x.at`,
    [entries.map((one) => one.itemId), entries.map((one) => one.code)],
  );
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

/** A serial comes in only from where it lies: one that is here, or that somebody else has, is not taken in as new. */
const whereSaid = (where: string, ours: boolean): string =>
  ours ? `is here already: ${where}.` : `is known and lies at ${where}. Bring it back from there: undo what took it there, or find it by a correction.`;

/** A tag is on one unit only. */
async function refuseTags({ tx }: Act, entries: readonly Entry[]): Promise<void> {
  const tags = entries.flatMap(({ tag }) => (tag === undefined ? [] : [tag.toLowerCase()]));
  if (tags.length === 0) return;
  const taken = await tx.rows<{ tag: string; itemId: number; sku: string; code: string }>(
    'SELECT lower(l.tag) AS tag, l.item_id AS "itemId", i.sku, l.code FROM lot l JOIN item i ON i.id = l.item_id WHERE lower(l.tag) = ANY($1)',
    [tags],
  );
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
  const given = known.flatMap(({ at, id }) => {
    const { tag } = entries[at] as Entry;
    return tag === undefined || id === null ? [] : [{ id, tag }];
  });
  if (given.length > 0)
    await tx.rows(
      'UPDATE lot SET tag = x.tag, version = version + 1 FROM unnest($1::int[], $2::text[]) x(id, tag) WHERE lot.id = x.id AND lot.tag IS DISTINCT FROM x.tag',
      [given.map(({ id }) => id), given.map(({ tag }) => tag)],
    );
}
