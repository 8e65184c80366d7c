import { money, sum, zero, type Decimal } from '../decimal';
import { goodsOpen } from './goodsOpen';
import { itemOf, placeOf } from './facts';
import { isOwned, type Borne, type JournalLine, type LedgerState, type Movement, type PlaceKind, type Plan, type PlannedLine, type WorkMoved } from './types';

/**
 * Journal lines of a movement: inventory per item against the account of the place at the other end.
 * What was clamped goes to cost variance in the same entry. What is borne for a reason is the cost of its department, and so is the tax on own use.
 * Amounts add up to zero; lines of zero are left out.
 */
export function journalOf(
  state: LedgerState,
  lines: readonly PlannedLine[],
  borne: Borne | null = null,
  work: { charges: WorkMoved['charges']; variance: Decimal } | null = null,
): JournalLine[] {
  const departmentId = borne?.departmentId ?? null;
  const inventory = new Map<string, JournalLine>();
  const others = new Map<string, JournalLine>();
  const open = new Map<number, Decimal>();
  for (const line of lines) {
    const item = itemOf(state, line.itemId);
    add(inventory, { accountId: item.inventoryAccount, itemId: item.id, amount: line.value });
    const worth = line.value.plus(line.variance);
    const bought = line.serves.find(({ kind }) => kind === 'purchase');
    if (bought) {
      const before = open.get(bought.lineId) ?? state.documents.get(bought.lineId)?.open ?? zero;
      const { grni, creditsExpected } = goodsOpen(before, before.plus(worth));
      open.set(bought.lineId, before.plus(worth));
      add(others, { accountId: state.accounts.grni, amount: grni });
      add(others, { accountId: state.accounts['credits-expected'], amount: creditsExpected });
    } else add(others, { accountId: otherAccount(state, line), amount: worth.neg(), departmentId });
    add(others, { accountId: varianceAccount(state, line), amount: line.variance, departmentId });
  }
  if (borne?.tax) {
    add(others, { accountId: borne.accountId, amount: borne.tax.owed, departmentId });
    add(others, { accountId: state.accounts['own-use-tax'], amount: borne.tax.owed.neg() });
  }
  for (const { accountId, amount } of work?.charges ?? []) {
    add(others, { accountId: state.accounts['work-in-progress'], amount });
    add(others, { accountId, amount: amount.neg() });
  }
  if (work) {
    add(others, { accountId: state.accounts['making-variance'], amount: work.variance });
    add(others, { accountId: state.accounts['work-in-progress'], amount: work.variance.neg() });
  }
  const all = [...inventory.values(), ...others.values()].filter(({ amount }) => !amount.isZero());
  if (!sum(all.map(({ amount }) => amount)).isZero()) throw new Error('the entry does not balance');
  return all;
}

/** Lines that move value between stock and work in progress. */
const isWork = ({ serves }: PlannedLine): boolean => serves.some(({ kind }) => kind === 'component' || kind === 'product');

/**
 * What a movement leaves in progress of its work order: what was there, with what its parts had cost and its charges, less what its products are worth and what goes on in its rest. Where nothing more comes of it, all that is left
 * is making variance; an undo takes back the variance that was posted.
 */
export function workOf(state: LedgerState, { work }: Movement, lines: readonly PlannedLine[]): Plan['work'] {
  if (!work) return null;
  const moved = sum(lines.filter(isWork).map((line) => moves(state, line)));
  const left = work.before
    .plus(sum(work.charges.map(({ amount }) => amount)))
    .plus(moved)
    .minus(work.carried?.amount ?? zero);
  const variance = work.ends === true ? left : work.ends === false ? zero : work.ends.undoes.neg();
  return { variance, after: left.minus(variance) };
}

/** What a line puts into work in progress; below zero what it takes out. What only goes to the work and back moves nothing. */
function moves(state: LedgerState, line: PlannedLine): Decimal {
  const ends = [line.fromPlaceId, line.toPlaceId].map((id) => placeOf(state, id).kind);
  return ends.includes('made') ? line.value.plus(line.variance).neg() : zero;
}

type Amount = Pick<JournalLine, 'accountId' | 'amount'> & Partial<JournalLine>;
function add(lines: Map<string, JournalLine>, { accountId, itemId = null, departmentId = null, amount }: Amount): void {
  const key = `${accountId}/${itemId ?? ''}/${departmentId ?? ''}`;
  lines.set(key, { accountId, itemId, departmentId, amount: (lines.get(key)?.amount ?? zero).plus(amount) });
}

/** What bears the cost of what a movement moves, and what tax is due on it: a rate on what its goods had cost, rounded once; an undo takes back what was posted. */
export function borneBy(state: LedgerState, { bearer, reasonId }: Movement, lines: readonly PlannedLine[]): Borne | null {
  if (reasonId === null || state.reasonAccount === null) return null;
  const { departmentId = null, tax = null } = bearer ?? {};
  const base = sum(lines.map(({ value, variance }) => value.plus(variance))).neg();
  const posted = tax && (tax.posted ?? { base, owed: money(base.times(tax.rate).div(100)) });
  return { accountId: state.reasonAccount, departmentId, tax: tax && posted && { taxCodeId: tax.taxCodeId, rate: tax.rate, ...posted } };
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
      // What is made of other goods at once is worth what was put into it; nothing is left between but what no product took.
      return state.accounts[isWork(line) ? 'work-in-progress' : 'cost-variance'];
    case 'found-or-lost':
    case 'scrap':
      return lossAccount(state, line);
    default:
      return itemOf(state, line.itemId).inventoryAccount;
  }
}
