import { greatest, least, zero, type Decimal } from '../decimal';
import { position } from '../planning/topUp';

/** How an item stands at a site. Base units; null where nobody has said a level. */
export interface StandingAt {
  siteId: number;
  free: Decimal;
  /** On its way there, from suppliers and other sites. */
  incoming: Decimal;
  short: Decimal;
  reorderPoint: Decimal | null;
  orderUpTo: Decimal | null;
}

/** So many that one site could bring from another. */
export interface Bringing {
  fromSiteId: number;
  toSiteId: number;
  quantity: Decimal;
}

/** What a site lacks: from its point down, up to its order-up-to; without levels, what is short there. */
export function lackOf(at: StandingAt): Decimal {
  const now = position(at);
  if (at.reorderPoint === null) return greatest(now.neg(), zero);
  return now.lte(at.reorderPoint) ? greatest((at.orderUpTo ?? at.reorderPoint).minus(now), zero) : zero;
}

/** What a site has too many of: what is free above its own order-up-to. One where nobody has said a level keeps what it has. */
export const surplusOf = ({ free, short, orderUpTo }: StandingAt): Decimal =>
  orderUpTo === null || short.gt(zero) ? zero : greatest(free.minus(orderUpTo), zero);

const wholeSteps = (quantity: Decimal, step: Decimal): Decimal => quantity.dividedToIntegerBy(step).times(step);

/**
 * What sites could bring from each other of one item, so that nothing need be bought: whoever lacks most is served first, by whoever has most too many,
 * in whole steps of its unit. Nobody gives what it lacks itself, and nobody gets more than it lacks.
 */
export function bringings(sites: readonly StandingAt[], step: Decimal): Bringing[] {
  const left = new Map(sites.map((at) => [at.siteId, surplusOf(at)]));
  const wanting = sites.map((at) => ({ siteId: at.siteId, lack: lackOf(at) })).filter(({ lack }) => lack.gt(zero));
  wanting.sort((one, other) => other.lack.comparedTo(one.lack) || one.siteId - other.siteId);
  return wanting.flatMap(({ siteId: toSiteId, lack }) => {
    const found: Bringing[] = [];
    let open = lack;
    const givers = [...left]
      .filter(([siteId, surplus]) => siteId !== toSiteId && surplus.gt(zero))
      .sort(([a, one], [b, other]) => other.comparedTo(one) || a - b);
    for (const [fromSiteId, surplus] of givers) {
      const quantity = wholeSteps(least(open, surplus), step);
      if (quantity.lte(zero)) continue;
      found.push({ fromSiteId, toSiteId, quantity });
      left.set(fromSiteId, surplus.minus(quantity));
      open = open.minus(quantity);
    }
    return found;
  });
}
