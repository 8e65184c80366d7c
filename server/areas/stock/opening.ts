import type { OpeningForm } from '@larder/contract/stock';
import { eq } from 'drizzle-orm';
import type { Act } from '../../act';
import { incomingLines, refuseIncoming } from '../../documents/incoming';
import { refuseNotKept } from '../../documents/lines';
import { post, type Posting } from '../../ledger/door';
import { place } from '../../db/schema/index';

/** Brings in what lies there when the business begins to use this, at a stated value, with its lots or serials. */
export async function openStock(act: Act, form: OpeningForm): Promise<Posting> {
  const incoming = await refuseIncoming(act, form.lines, 'stock.correct');
  refuseNotKept(form.lines, incoming.items);
  const [opening] = await act.tx.db.select({ id: place.id }).from(place).where(eq(place.kind, 'opening'));
  if (!opening) throw new Error('there is no place that opening stock comes from');
  return post(act, {
    kind: 'opening',
    effectiveOn: form.effectiveOn ?? act.today,
    lines: await incomingLines(act, incoming, opening.id),
    reasonId: null,
    reversesId: null,
    note: form.note,
    countedAgreed: form.countedSince,
  });
}
