import type { Decimal } from '@larder/core/decimal';
import { rolledCost, rollUp } from '@larder/core/making/rollUp';
import type { Act } from '../../act';
import { costNowOf, inUseFor, itemsIn, itemsOf } from './inUse';

/** What one of an item costs by the bills in use now, over all levels; null for what has no bill, or of a part of which nothing says what it costs. */
export async function rolledUpOf(act: Act, itemId: number): Promise<Decimal | null> {
  const { bills } = await inUseFor(act, [itemId]);
  if (!bills.has(itemId)) return null;
  const items = await itemsOf(act, itemsIn([itemId], bills));
  const rolled = rollUp(bills, costNowOf(items))(itemId);
  return rolled && rolled.unknown.length === 0 ? rolledCost(rolled) : null;
}
