import { addDays } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { eq, like } from 'drizzle-orm';
import type { Act } from '../act';
import { canBeLent } from '../areas/loans/figures';
import { becomeHolder, createHolder } from '../areas/loans/holders';
import { bringBack, lend } from '../areas/loans/lending';
import { getLoan } from '../areas/loans/queries';
import { setReminder } from '../areas/reminders/service';
import { item, party, person, role } from '../db/schema/index';
import { idOf } from './idOf';

const holder = async (act: Act, name: string, sort: 'person' | 'team' | 'place'): Promise<number> =>
  (await createHolder(act, { name, sort, email: '', phone: '' })).id;

/** So many units of items whose SKU begins so, as far as they are free at a site. */
async function things(act: Act, siteId: number, sku: string, many: number, each = '1') {
  const items = await act.tx.db
    .select({ id: item.id })
    .from(item)
    .where(like(item.sku, `${sku}%`))
    .orderBy(item.sku);
  const { rows } = await canBeLent(act, { items: items.map(({ id }) => id).join(','), siteId });
  return rows
    .flatMap(({ itemId, places }) =>
      places
        .filter(({ free, quantity }) => decimal(free).gte(each) && decimal(quantity).gte(each))
        .map((place) => ({ itemId, ...place }))
        .slice(0, 1),
    )
    .slice(0, many)
    .map(({ itemId, lotId, binId }) => ({ itemId, lotId, binId, quantity: each }));
}

/** A few weeks ago: an extractor to a club that has not brought it back, and tools to the apiary on the ridge, some of which are back. */
export async function lendEarlier(act: Act, siteId: number): Promise<void> {
  const { id: club } = await becomeHolder(act, await idOf(act, party, eq(party.name, 'Vale Beekeepers')));
  const extractor = await things(act, siteId, 'EX-', 1);
  if (extractor.length > 0) await lend(act, { holderId: club, dueOn: addDays(act.today, 9), note: 'for their honey weekend', lines: extractor });
  const tools = await things(act, siteId, 'HT-', 2, '3');
  if (tools.length === 0) return;
  const { id } = await lend(act, { holderId: await holder(act, 'Ridge apiary', 'place'), dueOn: addDays(act.today, 60), note: '', lines: tools });
  const [line] = (await getLoan(act, id as number)).lineRows;
  if (line) await bringBack(act, { lines: [{ lineId: line.id, quantity: '1', binId: line.fromBinId, condition: 'worn', note: 'the point is blunt' }] });
}

/** This morning: an extractor to a person, of which two of us are reminded, and smokers to those who teach. */
export async function lendThisMorning(act: Act, siteId: number): Promise<void> {
  const extractor = await things(act, siteId, 'EX-', 1);
  const smokers = await things(act, siteId, 'SM-', 1, '2');
  if (smokers.length > 0) await lend(act, { holderId: await holder(act, 'Course team', 'team'), dueOn: null, note: 'through the season', lines: smokers });
  if (extractor.length === 0) return;
  const { id: loanId } = await lend(act, { holderId: await holder(act, 'Hazel Quill', 'person'), dueOn: addDays(act.today, 6), note: '', lines: extractor });
  const wim = await idOf(act, person, eq(person.email, 'wim@larkmoor.example'));
  const about = { loanId, itemId: null, lotId: null, about: 'loan' as const, attributeId: null };
  await setReminder(act, { ...about, days: -2, personIds: [wim], roleIds: [] });
  await setReminder(act, { ...about, days: 1, personIds: [], roleIds: [await idOf(act, role, eq(role.name, 'Floor'))] });
}
