import type { CorrectionForm } from '@larder/contract/stock';
import { decimal } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { correctionDifference } from '@larder/core/stock/correction';
import { needRight, type Act } from '../../act';
import { post, type Posting } from '../../ledger/door';
import { itemFacts, quantityError, refuseErrors, type ItemFacts } from '../../documents/lines';

interface Bin {
  id: number;
  siteId: number;
}

/**
 * Puts stock right: "there are now N" posts the difference to what the bin held when the line was entered, "plus or minus N" posts N.
 * Lines that agree post nothing.
 */
export async function correct(act: Act, form: CorrectionForm): Promise<Posting> {
  const [reason] = await act.tx.rows<{ placeId: number }>(
    'SELECT p.id AS "placeId" FROM reason r JOIN place p ON p.kind = r.place AND p.site_id IS NULL AND p.party_id IS NULL WHERE r.id = $1 AND r.retired_at IS NULL',
    [form.reasonId],
  );
  if (!reason) throw refuseField(422, 'no-such-reason', 'reasonId', 'Choose a reason from the list.');
  const facts = await itemFacts(
    act,
    form.lines.map(({ itemId }) => itemId),
  );
  const bins = await act.tx.rows<Bin>(`SELECT id, site_id AS "siteId" FROM place WHERE kind = 'bin' AND id = ANY($1)`, [form.lines.map(({ binId }) => binId)]);
  refuseErrors(form.lines.flatMap((line, index) => lineErrors(act, form, facts.get(line.itemId), bins, index)));
  const lines = form.lines.flatMap((line, index) => movementLine(form, line, reason.placeId, index));
  if (lines.length === 0) throw new Refusal(422, 'nothing-to-post', 'Everything agrees: there is nothing to correct.');
  return post(act, { kind: 'correction', effectiveOn: form.effectiveOn ?? act.today, lines, reasonId: form.reasonId, reversesId: null, note: form.note });
}

function lineErrors(act: Act, form: CorrectionForm, item: ItemFacts | undefined, bins: readonly Bin[], index: number): FieldError[] {
  const line = form.lines[index] as CorrectionForm['lines'][number];
  const field = (name: string) => `lines.${index}.${name}`;
  const bin = bins.find(({ id }) => id === line.binId);
  if (!item) return [{ field: field('itemId'), sentence: 'There is no such item.' }];
  if (!bin) return [{ field: field('binId'), sentence: 'There is no such bin.' }];
  needRight(act.by, 'stock.correct', bin.siteId);
  if (item.tracking !== 'none') return [{ field: field('itemId'), sentence: `${item.sku} needs its lot or serial.` }];
  const signless = line.quantity.replace(/^[+-]/, '');
  if (form.way === 'there-are-now' && line.quantity.startsWith('-')) return [{ field: field('quantity'), sentence: 'There cannot be fewer than none.' }];
  if (form.way === 'there-are-now' && line.atEntry === null) return [{ field: field('atEntry'), sentence: 'Say what the bin held when the line was entered.' }];
  if (form.lines.findIndex((other) => other.itemId === line.itemId && other.binId === line.binId) < index)
    return [{ field: field('binId'), sentence: `${item.sku} in this bin is on the sheet already.` }];
  const fault = quantityError(item, signless, field('quantity'), form.way === 'there-are-now');
  return fault ? [fault] : [];
}

function movementLine(form: CorrectionForm, line: CorrectionForm['lines'][number], reasonPlaceId: number, index: number): MovementLine[] {
  const difference = correctionDifference(form.way, decimal(line.quantity), decimal(line.atEntry ?? 0));
  if (difference.isZero()) return [];
  const [fromPlaceId, toPlaceId] = difference.gt(0) ? [reasonPlaceId, line.binId] : [line.binId, reasonPlaceId];
  return [
    {
      itemId: line.itemId,
      lotId: null,
      quantity: difference.abs(),
      fromPlaceId,
      toPlaceId,
      valuation: { by: 'current' },
      serves: null,
      field: `lines.${index}.quantity`,
    },
  ];
}
