import type { CorrectionForm } from '@larder/contract/stock';
import { decimal, zero, type Decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { refuseField, type FieldError } from '@larder/core/refusal';
import { correctionDifference } from '@larder/core/stock/correction';
import { and, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { binCount, place } from '../../db/schema/index';
import { post, type Posting } from '../../ledger/door';
import { bearerOf } from '../../documents/bearer';
import { clearDoubts } from '../../documents/doubts';
import { heldThen, type HeldThen, type Looked } from '../../documents/heldThen';
import { lineFacts, quantityError, refuseErrors, refuseNotKept, type BinFacts, type ItemFacts } from '../../documents/lines';
import { placesOfReasons } from '../../documents/reasons';

export { lot } from './lots';
export { openStock } from './opening';
export { furtherOn, trace } from './trace';

/**
 * Puts stock right: "there are now N" posts the difference to what the bin held when the line was entered, "plus or minus N" posts N.
 * Lines that agree post nothing, but the bin counts as looked at.
 */
export async function correct(act: Act, form: CorrectionForm): Promise<Posting> {
  const [[because], facts] = await Promise.all([
    placesOfReasons(act.tx, { ids: [form.reasonId] }),
    lineFacts(
      act,
      form.lines.map(({ itemId }) => itemId),
      form.lines.map(({ binId }) => binId),
    ),
  ]);
  if (!because) throw refuseField(422, 'no-such-reason', 'reasonId', 'Choose a reason from the list.');
  refuseNotKept(form.lines, facts.items);
  refuseErrors(form.lines.flatMap((line, index) => lineErrors(act, form, facts.items.get(line.itemId), facts.bins.get(line.binId), index)));
  const effectiveOn = form.effectiveOn ?? act.today;
  const bearer = await bearerOf(act, form, because, effectiveOn);
  const held = form.way === 'there-are-now' ? await heldThen(act, form.lines.map(lookedAt)) : [];
  refuseCountedLater(form, held, facts);
  const swept = await sweptLines(act, form, facts.bins);
  const lines = form.lines.flatMap((line, index) => {
    const came = swept.get(index);
    const there = (held[index]?.held ?? zero).plus(came?.quantity ?? 0);
    return [...(came ? [came] : []), ...differenceLine(form, line, there, because.placeId, index)];
  });
  const posting: Posting =
    lines.length === 0
      ? { movementId: null, effects: { rows: [], notes: ['Everything agrees: nothing is posted, and the bins count as looked at.'], costNotes: [] } }
      : await post(act, {
          kind: 'correction',
          effectiveOn,
          lines,
          reasonId: form.reasonId,
          bearer,
          reversesId: null,
          note: form.note,
          countedAgreed: form.countedSince,
        });
  if (!act.tx.readOnly)
    await clearDoubts(
      act,
      form.lines.map(({ itemId, binId }) => ({ itemId, placeId: binId })),
    );
  if (form.way === 'there-are-now' && !act.tx.readOnly) await noteCounted(act, form, effectiveOn, posting.movementId);
  return posting;
}

const lookedAt = ({ itemId, lotId, binId, seq }: CorrectionForm['lines'][number]): Looked => ({ itemId, lotId, binId, seq: seq ?? 0 });

/** Somebody has said since how much lies there: it is asked whether what was seen before that is meant all the same. */
function refuseCountedLater(form: CorrectionForm, held: readonly HeldThen[], { items }: { items: ReadonlyMap<number, ItemFacts> }): void {
  const at = form.countedSince ? -1 : held.findIndex(({ countedLater }) => countedLater !== null);
  if (at < 0) return;
  const sku = items.get(form.lines[at]?.itemId ?? 0)?.sku ?? '';
  throw refuseField(409, 'counted-since', `lines.${at}.quantity`, `${sku} was counted here since this was entered. Enter it all the same?`, ['counted-since']);
}

/** By the line that says so: what of its item had no bin when the line was entered, and goes into the one that is put right. */
async function sweptLines(act: Act, form: CorrectionForm, bins: ReadonlyMap<number, BinFacts>): Promise<Map<number, MovementLine>> {
  const asked = form.lines.flatMap((line, index) => (line.sweep ? [{ line, index, siteId: bins.get(line.binId)?.siteId ?? 0 }] : []));
  if (asked.length === 0) return new Map();
  const unplaced = await act.tx.db
    .select({ id: place.id, siteId: place.siteId })
    .from(place)
    .where(and(place.unplaced, among(sql`${place.siteId}`, [...new Set(asked.map(({ siteId }) => siteId))])));
  const from = asked.map(({ line, index, siteId }) => ({ line, index, placeId: unplaced.find((one) => one.siteId === siteId)?.id ?? 0 }));
  const held = await heldThen(
    act,
    from.map(({ line, placeId }) => lookedAt({ ...line, binId: placeId })),
  );
  return new Map(
    from.flatMap(({ line: { itemId, lotId, binId }, index, placeId }, at): [number, MovementLine][] => {
      const quantity = held[at]?.held ?? zero;
      if (quantity.lte(0) || placeId === binId) return [];
      return [
        [
          index,
          { itemId, lotId, quantity, fromPlaceId: placeId, toPlaceId: binId, valuation: { by: 'current' }, serves: [], field: `lines.${index}.quantity` },
        ],
      ];
    }),
  );
}

/** Keeps that these bins were said to hold so much, as of the last movement known then. */
async function noteCounted({ tx }: Act, { lines }: CorrectionForm, countedOn: string, movementId: number | null): Promise<void> {
  await tx.db
    .insert(binCount)
    .values(lines.map(({ itemId, lotId, binId, quantity, seq }) => ({ itemId, lotId, placeId: binId, quantity, seq: seq ?? 0, countedOn, movementId })));
}

function lineErrors(act: Act, form: CorrectionForm, item: ItemFacts | undefined, bin: BinFacts | undefined, index: number): FieldError[] {
  const line = form.lines[index] as CorrectionForm['lines'][number];
  const field = (name: string) => `lines.${index}.${name}`;
  if (!item) return [{ field: field('itemId'), sentence: 'There is no such item.' }];
  if (!bin) return [{ field: field('binId'), sentence: 'There is no such bin.' }];
  act.allow('stock.correct', bin.siteId);
  if ((item.tracking !== 'none') !== (line.lotId !== null))
    return [
      {
        field: field('lotId'),
        sentence: item.tracking === 'none' ? `${item.sku} is kept without lots or serials.` : `Say which ${item.tracking} of ${item.sku}.`,
      },
    ];
  const signless = line.quantity.replace(/^[+-]/, '');
  if (line.sweep && form.way !== 'there-are-now')
    return [{ field: field('sweep'), sentence: 'What has no bin is swept in only where it is said how many there are now.' }];
  if (form.way === 'there-are-now' && line.quantity.startsWith('-')) return [{ field: field('quantity'), sentence: 'There cannot be fewer than none.' }];
  if (form.way === 'there-are-now' && line.seq === null)
    return [{ field: field('seq'), sentence: 'Say which movement was the last one known when the line was entered.' }];
  if (form.lines.findIndex((other) => other.itemId === line.itemId && other.binId === line.binId && other.lotId === line.lotId) < index)
    return [{ field: field('binId'), sentence: `${item.sku} in this bin is on the sheet already.` }];
  const fault = quantityError(item, signless, field('quantity'), form.way === 'there-are-now');
  return fault ? [fault] : [];
}

function differenceLine(form: CorrectionForm, line: CorrectionForm['lines'][number], held: Decimal, reasonPlaceId: number, index: number): MovementLine[] {
  const difference = correctionDifference(form.way, decimal(line.quantity), held);
  if (difference.isZero()) return [];
  const [fromPlaceId, toPlaceId] = difference.gt(0) ? [reasonPlaceId, line.binId] : [line.binId, reasonPlaceId];
  return [
    {
      itemId: line.itemId,
      lotId: line.lotId,
      quantity: difference.abs(),
      fromPlaceId,
      toPlaceId,
      valuation: { by: 'current' },
      serves: [],
      field: `lines.${index}.quantity`,
    },
  ];
}
