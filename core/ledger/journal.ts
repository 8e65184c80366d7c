import { sum, zero, type Decimal } from '../decimal';
import { goodsOpen } from './goodsOpen';
import { itemOf, placeOf } from './facts';
import { isOwned, type JournalLine, type LedgerState, type PlaceKind, type PlannedLine } from './types';

/**
 * Journal lines of a movement: inventory per item against the account of the place at the other end.
 * What was clamped goes to cost variance in the same entry. Amounts add up to zero; lines of zero are left out.
 */
export function journalOf(state: LedgerState, lines: readonly PlannedLine[]): JournalLine[] {
  const inventory = new Map<string, JournalLine>();
  const others = new Map<string, JournalLine>();
  const open = new Map<number, Decimal>();
  for (const line of lines) {
    const item = itemOf(state, line.itemId);
    add(inventory, item.inventoryAccount, item.id, line.value);
    const worth = line.value.plus(line.variance);
    const bought = line.serves.find(({ kind }) => kind === 'purchase');
    if (bought) {
      const before = open.get(bought.lineId) ?? state.documents.get(bought.lineId)?.open ?? zero;
      const { grni, creditsExpected } = goodsOpen(before, before.plus(worth));
      open.set(bought.lineId, before.plus(worth));
      add(others, state.accounts.grni, null, grni);
      add(others, state.accounts['credits-expected'], null, creditsExpected);
    } else add(others, otherAccount(state, line), null, worth.neg());
    add(others, varianceAccount(state, line), null, line.variance);
  }
  const all = [...inventory.values(), ...others.values()].filter(({ amount }) => !amount.isZero());
  if (!sum(all.map(({ amount }) => amount)).isZero()) throw new Error('the entry does not balance');
  return all;
}

function add(lines: Map<string, JournalLine>, accountId: number, itemId: number | null, amount: Decimal): void {
  const key = `${accountId}/${itemId ?? ''}`;
  lines.set(key, { accountId, itemId, amount: (lines.get(key)?.amount ?? zero).plus(amount) });
}

/** Where goes what the goods cost and no pool bears: what goes from a supplier straight to a customer, or into use, has its cost there. */
function varianceAccount(state: LedgerState, line: PlannedLine): number {
  if (line.valuation.by === 'returned') return state.accounts['price-variance'];
  const ends = [line.fromPlaceId, line.toPlaceId].map((id) => placeOf(state, id).kind);
  if (ends.some(isOwned)) return state.accounts['cost-variance'];
  return ends.includes('scrap') ? lossAccount(state, line) : itemOf(state, line.itemId).costAccount;
}

/** What bears the cost of goods that are lost or thrown away. */
const lossAccount = (state: LedgerState, { lossAccount: own }: PlannedLine): number => own ?? state.reasonAccount ?? state.accounts['stock-differences'];

/** The account of the end of the line that is not ours. */
function otherAccount(state: LedgerState, line: PlannedLine): number {
  const ends = [placeOf(state, line.fromPlaceId), placeOf(state, line.toPlaceId)];
  const of = (kind: PlaceKind) => ends.find((place) => place.kind === kind);
  const kind = (of('supplier') ?? of('customer') ?? ends.find((place) => !isOwned(place.kind)))?.kind;
  switch (kind) {
    case 'supplier':
      return state.accounts['purchases-paid'];
    case 'customer':
    case 'before-records':
      // What was sold before there were records, too, comes off cost of sales when it comes back.
      return itemOf(state, line.itemId).costAccount;
    case 'opening':
      return state.accounts.opening;
    case 'own-use':
      return state.reasonAccount ?? state.accounts['own-use'];
    case 'made':
      // What was made is worth what was put into it; nothing is left between but what no product took.
      return state.accounts['cost-variance'];
    case 'found-or-lost':
    case 'scrap':
      return lossAccount(state, line);
    default:
      return itemOf(state, line.itemId).inventoryAccount;
  }
}
