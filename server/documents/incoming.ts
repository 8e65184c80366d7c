import { decimal, money } from '@larder/core/decimal';
import type { MovementLine } from '@larder/core/ledger/types';
import type { FieldError } from '@larder/core/refusal';
import type { Right } from '@larder/contract/rights';
import type { IncomingLines, WorthLine } from '@larder/contract/values';
import { eq } from 'drizzle-orm';
import type { Act } from '../act';
import { lineFacts, quantityError, refuseErrors, type ItemFacts } from './lines';
import { linesByLot, type ComingIn } from './lots';
import { among } from '../db/given';
import { item, place } from '../db/schema/index';

export interface Incoming {
  items: ReadonlyMap<number, ItemFacts>;
  /** The one site that all bins are at, or null when there are several. */
  siteId: number | null;
  /** What comes in, each with what one is worth. */
  lines: readonly WorthLine[];
}

/** Refuses, by the field, goods that cannot come in like this; the person needs the right at each bin's site. */
export async function refuseIncoming(act: Act, lines: IncomingLines, right: Right): Promise<Incoming> {
  const { items, bins } = await lineFacts(
    act,
    lines.map(({ itemId }) => itemId),
    lines.map(({ binId }) => binId),
  );
  const prices = await purchasePrices(act, lines);
  refuseErrors(
    lines.flatMap((line, index): FieldError[] => {
      const field = (name: string) => `lines.${index}.${name}`;
      const facts = items.get(line.itemId);
      const bin = bins.get(line.binId);
      if (!facts) return [{ field: field('itemId'), sentence: 'There is no such item.' }];
      if (!bin) return [{ field: field('binId'), sentence: 'There is no such bin.' }];
      act.allow(right, bin.siteId);
      const fault = quantityError(facts, line.quantity, field('quantity'));
      if (fault) return [fault];
      if (line.unitValue === null && !prices.has(line.itemId))
        return [{ field: field('unitValue'), sentence: `Say what one is worth: ${facts.sku} has no purchase price.` }];
      return [];
    }),
  );
  const sites = new Set(lines.map(({ binId }) => bins.get(binId)?.siteId));
  return {
    items,
    siteId: sites.size === 1 ? ([...sites][0] ?? null) : null,
    lines: lines.map((line) => ({ ...line, unitValue: line.unitValue ?? (prices.get(line.itemId) as string) })),
  };
}

/** What those items are bought at of which was not said what one is worth. */
async function purchasePrices({ tx }: Act, lines: IncomingLines): Promise<Map<number, string>> {
  const ids = lines.flatMap(({ itemId, unitValue }) => (unitValue === null ? [itemId] : []));
  if (ids.length === 0) return new Map();
  const rows = await tx.db.select({ id: item.id, price: item.purchasePrice }).from(item).where(among(item.id, ids));
  return new Map(rows.flatMap(({ id, price }) => (price === null ? [] : [[id, price] as const])));
}

/** Movement lines of goods that come from `fromPlaceId` at a stated value, one for each lot or serial; what is not kept in stock is used up at once. */
export async function incomingLines(act: Act, { items, lines }: Incoming, fromPlaceId: number): Promise<MovementLine[]> {
  const usedUp = await usedUpPlace(act);
  return linesByLot(
    act,
    lines.map(({ itemId, binId, lots, ...line }, index): ComingIn => {
      const facts = items.get(itemId) as ItemFacts;
      const quantity = decimal(line.quantity);
      const field = `lines.${index}.quantity`;
      const value = money(quantity.times(line.unitValue));
      return {
        itemId,
        sku: facts.sku,
        tracking: facts.tracking,
        lots,
        lotsField: `lines.${index}.lots`,
        line: { itemId, lotId: null, quantity, fromPlaceId, toPlaceId: facts.stocked ? binId : usedUp, valuation: { by: 'stated', value }, serves: [], field },
      };
    }),
  );
}

/** Where goes what is not kept in stock. */
export async function usedUpPlace({ tx }: Act): Promise<number> {
  const [found] = await tx.db.select({ id: place.id }).from(place).where(eq(place.kind, 'used-up'));
  if (!found) throw new Error('there is no place for what is used up');
  return found.id;
}
