import type { OpeningForm } from '@larder/contract/stock';
import { decimal } from '@larder/core/decimal';
import type { FieldError } from '@larder/core/refusal';
import { needRight, type Act } from '../../act';
import { lineFacts, quantityError, refuseErrors, type ItemFacts } from '../../documents/lines';
import { linesByLot, type ComingIn } from '../../documents/lots';
import { post, type Posting } from '../../ledger/door';

/** Brings in what lies there when the business begins to use this, at a stated value, with its lots or serials. */
export async function openStock(act: Act, form: OpeningForm): Promise<Posting> {
  const { items, bins } = await lineFacts(
    act,
    form.lines.map(({ itemId }) => itemId),
    form.lines.map(({ binId }) => binId),
  );
  refuseErrors(
    form.lines.flatMap((line, index): FieldError[] => {
      const field = (name: string) => `lines.${index}.${name}`;
      const item = items.get(line.itemId);
      const bin = bins.get(line.binId);
      if (!item) return [{ field: field('itemId'), sentence: 'There is no such item.' }];
      if (!bin) return [{ field: field('binId'), sentence: 'There is no such bin.' }];
      needRight(act.by, 'stock.correct', bin.siteId);
      const fault = quantityError(item, line.quantity, field('quantity'));
      return fault ? [fault] : [];
    }),
  );
  const [opening] = await act.tx.rows<{ id: number }>(`SELECT id FROM place WHERE kind = 'opening'`);
  const coming = form.lines.map((line, index): ComingIn => {
    const item = items.get(line.itemId) as ItemFacts;
    const quantity = decimal(line.quantity);
    return {
      itemId: line.itemId,
      sku: item.sku,
      tracking: item.tracking,
      lots: line.lots,
      line: {
        itemId: line.itemId,
        lotId: null,
        quantity,
        fromPlaceId: opening?.id as number,
        toPlaceId: line.binId,
        valuation: { by: 'stated', value: quantity.times(line.unitValue).toDecimalPlaces(2) },
        serves: null,
        field: `lines.${index}.quantity`,
      },
    };
  });
  return post(act, {
    kind: 'opening',
    effectiveOn: form.effectiveOn ?? act.today,
    lines: await linesByLot(act, coming),
    reasonId: null,
    reversesId: null,
    note: form.note,
  });
}
