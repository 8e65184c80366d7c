import type { OpeningForm } from '@larder/contract/stock';
import type { Act } from '../../act';
import { incomingLines, refuseIncoming } from '../../documents/incoming';
import { refuseNotKept } from '../../documents/lines';
import { post, type Posting } from '../../ledger/door';

/** Brings in what lies there when the business begins to use this, at a stated value, with its lots or serials. */
export async function openStock(act: Act, form: OpeningForm): Promise<Posting> {
  const incoming = await refuseIncoming(act, form.lines, 'stock.correct');
  refuseNotKept(form.lines, incoming.items);
  const [opening] = await act.tx.rows<{ id: number }>(`SELECT id FROM place WHERE kind = 'opening'`);
  return post(act, {
    kind: 'opening',
    effectiveOn: form.effectiveOn ?? act.today,
    lines: await incomingLines(act, form.lines, incoming, opening?.id as number),
    reasonId: null,
    reversesId: null,
    note: form.note,
    countedAgreed: form.countedSince,
  });
}
