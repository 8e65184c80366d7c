import type { CorrectionForm } from '@larder/contract/stock';
import { decimal, zero, type Decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { refuseField, type FieldError } from '@larder/core/refusal';
import { correctionDifference } from '@larder/core/stock/correction';
import { and, eq, gt, isNull, sql } from 'drizzle-orm';
import type { Act } from '../../act';
import { given } from '../../db/given';
import { balance, binCount, movementLine, place, reason } from '../../db/schema/index';
import { post, type Posting } from '../../ledger/door';
import { lock } from '../../ledger/lock';
import { clearDoubts } from '../../documents/doubts';
import { lineFacts, quantityError, refuseErrors, refuseNotKept, type BinFacts, type ItemFacts } from '../../documents/lines';
import { prepared } from '../../db/prepared';

export { openStock } from './opening';

/**
 * Puts stock right: "there are now N" posts the difference to what the bin held when the line was entered, "plus or minus N" posts N.
 * Lines that agree post nothing, but the bin counts as looked at.
 */
export async function correct(act: Act, form: CorrectionForm): Promise<Posting> {
  const [[because], facts] = await Promise.all([
    placeOfReason(act.tx, { id: form.reasonId }),
    lineFacts(
      act,
      form.lines.map(({ itemId }) => itemId),
      form.lines.map(({ binId }) => binId),
    ),
  ]);
  if (!because) throw refuseField(422, 'no-such-reason', 'reasonId', 'Choose a reason from the list.');
  refuseNotKept(form.lines, facts.items);
  refuseErrors(form.lines.flatMap((line, index) => lineErrors(act, form, facts.items.get(line.itemId), facts.bins.get(line.binId), index)));
  const held = form.way === 'there-are-now' ? await heldThen(act, form.lines) : [];
  const lines = form.lines.flatMap((line, index) => differenceLine(form, line, held[index] ?? zero, because.placeId, index));
  const effectiveOn = form.effectiveOn ?? act.today;
  const posting: Posting =
    lines.length === 0
      ? { movementId: null, effects: { rows: [], notes: ['Everything agrees: nothing is posted, and the bins count as looked at.'] } }
      : await post(act, {
          kind: 'correction',
          effectiveOn,
          lines,
          reasonId: form.reasonId,
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

/** Where goods come from or go to for a reason that is in use. */
const placeOfReason = prepared(['id'], (db, { id }) =>
  db
    .select({ placeId: place.id })
    .from(reason)
    .innerJoin(place, and(eq(place.kind, reason.place), isNull(place.siteId), isNull(place.partyId)))
    .where(and(sql`${reason.id} = ${id}`, isNull(reason.retiredAt))),
);

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
  if (form.way === 'there-are-now' && line.quantity.startsWith('-')) return [{ field: field('quantity'), sentence: 'There cannot be fewer than none.' }];
  if (form.way === 'there-are-now' && line.seq === null)
    return [{ field: field('seq'), sentence: 'Say which movement was the last one known when the line was entered.' }];
  if (form.lines.findIndex((other) => other.itemId === line.itemId && other.binId === line.binId && other.lotId === line.lotId) < index)
    return [{ field: field('binId'), sentence: `${item.sku} in this bin is on the sheet already.` }];
  const fault = quantityError(item, signless, field('quantity'), form.way === 'there-are-now');
  return fault ? [fault] : [];
}

/** What each line's bin held after the movement that was the last one known when the line was entered: the balance now, less what came after. */
async function heldThen(act: Act, lines: CorrectionForm['lines']): Promise<Decimal[]> {
  await lock.pools(
    act,
    lines.map(({ itemId }) => itemId),
  );
  const { rows: asked, row } = given(
    'asked',
    { at: movementLine.seq, itemId: balance.itemId, placeId: balance.placeId, lotId: balance.lotId, seq: movementLine.seq },
    lines.map(({ itemId, binId, lotId, seq }, at) => ({ at, itemId, placeId: binId, lotId, seq: seq ?? 0 })),
  );
  const { db } = act.tx;
  const now = db
    .select({ quantity: balance.quantity })
    .from(balance)
    .where(and(eq(balance.itemId, row.itemId), eq(balance.placeId, row.placeId), sql`${balance.lotId} is not distinct from ${row.lotId}`));
  const came = sql`(${movementLine.toPlaceId} = ${row.placeId})::int - (${movementLine.fromPlaceId} = ${row.placeId})::int`;
  const since = db
    .select({ quantity: sql`sum(${movementLine.quantity} * (${came}))` })
    .from(movementLine)
    .where(and(eq(movementLine.itemId, row.itemId), gt(movementLine.seq, row.seq), sql`${movementLine.lotId} is not distinct from ${row.lotId}`));
  const rows = await db
    .select({ held: sql<string>`coalesce((${now}), 0) - coalesce((${since}), 0)` })
    .from(asked)
    .orderBy(row.at);
  return rows.map(({ held }) => decimal(held));
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
