import { decimal, greatest, least, zero, type Decimal } from '../decimal';
import { allowed, priceOf, type Terms } from '../inbound/terms';
import { surplusOf, type StandingAt } from '../stock/proposals';
import type { Way } from './levels';
import { position } from './topUp';

/** How an item stands at a site, and how it is topped up there. Base units. */
export interface ToppedUp extends StandingAt {
  /** On drafts of orders and in planned work, which nobody has placed or released. */
  drafted: Decimal;
  way: Way;
  /** It comes in whole packs of so many; null: any number. */
  pack: Decimal | null;
}

/** Who could send some, the first to be asked first; retired ones are asked no more. */
export interface SupplierOf {
  supplierId: number;
  retired: boolean;
  terms: Terms;
}

export type Source = { by: 'buy'; supplierId: number | null } | { by: 'bring'; siteId: number } | { by: 'make' };

/** Why it is not as the way of the item has it. */
export type ProposalNote = 'supplier-retired' | 'giver-short' | 'no-bill';

export interface Proposed {
  siteId: number;
  source: Source;
  /** None where the site that is to give has none. */
  quantity: Decimal;
  note: ProposalNote | null;
}

export interface ItemFacts {
  step: Decimal;
  /** A bill of materials says how it is made. */
  made: boolean;
  suppliers: readonly SupplierOf[];
}

/** What is free, on its way and in drafts, less what is short. */
export const standing = (at: ToppedUp): Decimal => position(at).plus(at.drafted);

/** What is missing up to the level where a site is at or below its point; nothing elsewhere. */
function missingAt(at: ToppedUp): Decimal {
  const now = standing(at);
  if (at.reorderPoint === null || at.orderUpTo === null || now.gt(at.reorderPoint)) return zero;
  return greatest(at.orderUpTo.minus(now), zero);
}

const upTo = (quantity: Decimal, unit: Decimal): Decimal => quantity.div(unit).ceil().times(unit);
const downTo = (quantity: Decimal, unit: Decimal): Decimal => quantity.dividedToIntegerBy(unit).times(unit);

/**
 * How to top up an item at all sites. Whoever has a site to be served from gets from there as many as are free; others are first given what sites have
 * free above their own level, the one that lacks most first, from whoever has most too many. Who is still at or below its point after that gets the rest
 * made where a bill says how, else bought from its first supplier in use, unless its way says otherwise; in whole packs, and as the supplier's terms allow.
 */
export function proposalsOf(sites: readonly ToppedUp[], facts: ItemFacts): Proposed[] {
  const lacking = sites.map((at) => ({ at, missing: missingAt(at) })).filter(({ missing }) => missing.gt(zero));
  lacking.sort((one, other) => other.missing.comparedTo(one.missing) || one.at.siteId - other.at.siteId);
  const free = new Map(sites.map((at) => [at.siteId, greatest(at.free, zero)]));
  const given = new Map<number, Decimal>();
  const give = (siteId: number, most: Decimal, at: ToppedUp, missing: Decimal): Decimal => {
    const pack = at.pack ?? facts.step;
    const quantity = least(upTo(missing, pack), downTo(greatest(most, zero), pack));
    given.set(siteId, (given.get(siteId) ?? zero).plus(quantity));
    return quantity;
  };
  const found: Proposed[] = [];
  for (const { at, missing } of lacking) {
    if (at.way.by !== 'bring') continue;
    const from = at.way.siteId;
    const quantity = give(from, (free.get(from) ?? zero).minus(given.get(from) ?? zero), at, missing);
    found.push({ siteId: at.siteId, source: { by: 'bring', siteId: from }, quantity, note: quantity.lt(missing) ? 'giver-short' : null });
  }
  for (const { at, missing } of lacking) {
    if (at.way.by === 'bring') continue;
    const brought = at.way.by === 'best' ? bring(sites, at, missing, given, give) : [];
    found.push(...brought);
    const came = brought.reduce((all, { quantity }) => all.plus(quantity), zero);
    if (
      standing(at)
        .plus(came)
        .lte(at.reorderPoint ?? zero)
    )
      found.push(rest(at, missing.minus(came), facts));
  }
  return found.sort((one, other) => one.siteId - other.siteId);
}

/** What sites that have too many could send. */
function bring(
  sites: readonly ToppedUp[],
  at: ToppedUp,
  missing: Decimal,
  given: ReadonlyMap<number, Decimal>,
  give: (siteId: number, most: Decimal, at: ToppedUp, missing: Decimal) => Decimal,
): Proposed[] {
  const givers = sites
    .filter(({ siteId }) => siteId !== at.siteId)
    .map((giver) => ({ siteId: giver.siteId, surplus: surplusOf(giver).minus(given.get(giver.siteId) ?? zero) }))
    .filter(({ surplus }) => surplus.gt(zero))
    .sort((one, other) => other.surplus.comparedTo(one.surplus) || one.siteId - other.siteId);
  const found: Proposed[] = [];
  let open = missing;
  for (const { siteId, surplus } of givers) {
    if (open.lte(zero)) break;
    const quantity = give(siteId, surplus, at, open);
    if (quantity.lte(zero)) continue;
    found.push({ siteId: at.siteId, source: { by: 'bring', siteId }, quantity, note: null });
    open = open.minus(quantity);
  }
  return found;
}

/** What is not brought: made, or bought. */
function rest({ siteId, way, pack }: ToppedUp, missing: Decimal, { step, made, suppliers }: ItemFacts): Proposed {
  const many = upTo(missing, pack ?? step);
  if (made && (way.by === 'make' || way.by === 'best')) return { siteId, source: { by: 'make' }, quantity: many, note: null };
  const inUse = suppliers.filter(({ retired }) => !retired);
  const wanted = way.by === 'buy' && way.supplierId !== null ? way.supplierId : null;
  const supplier = inUse.find(({ supplierId }) => supplierId === wanted) ?? inUse[0];
  const note = way.by === 'make' ? 'no-bill' : wanted !== null && supplier?.supplierId !== wanted ? 'supplier-retired' : null;
  const source: Source = { by: 'buy', supplierId: supplier?.supplierId ?? null };
  return { siteId, source, quantity: supplier ? allowed(supplier.terms, many) : many, note };
}

/** A price that is reached when more is ordered. */
export interface NextBreak {
  /** So many are to be ordered then. */
  quantity: Decimal;
  price: Decimal;
  /** What all of them cost more than what is ordered now, below zero where they cost less. */
  costs: Decimal;
  /** What is saved on all of them against the price now. */
  saves: Decimal;
}

/** The next price break of a supplier beyond a quantity, with what it would cost and save; null where there is none, or no price is agreed. */
export function nextBreak(terms: Terms, quantity: Decimal): NextBreak | null {
  const each = priceOf(terms, quantity);
  if (each === null) return null;
  const next = terms.breaks
    .map(({ from, price }) => ({ from: allowed(terms, decimal(from)), price: decimal(price) }))
    .filter(({ from, price }) => from.gt(quantity) && price.lt(each))
    .sort((one, other) => one.from.comparedTo(other.from))[0];
  if (!next) return null;
  return {
    quantity: next.from,
    price: next.price,
    costs: next.price.times(next.from).minus(each.times(quantity)),
    saves: each.minus(next.price).times(next.from),
  };
}
