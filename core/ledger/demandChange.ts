import { least, zero } from '../decimal';
import type { SiteChange } from './reservations';
import { serve } from './serving';
import type { DemandLine, ReservationChange, SiteState } from './types';

/** What a line of a document wants from then on, and where. Lines that are not there yet have ids below zero. */
export interface Wanting extends Omit<DemandLine, 'reserved'> {
  itemId: number;
  siteId: number;
}

export interface DemandPlan {
  sites: SiteChange[];
  /** To be written before the lines are, and after. */
  releases: ReservationChange[];
  reserves: ReservationChange[];
  /** Sentences about whom of the others is served by what is given up. */
  notes: string[];
}

/**
 * What a decision on lines of documents does to what is reserved, without goods moving: of those `decided` on, each wants what `wanting` says of it, and nothing when that says nothing. What they give up,
 * also by coming from another site, goes to those who are short; what they want beyond is reserved as far as it is free. Nobody's reservation is taken. `sites` are the items at their sites with everything
 * that wants them now, at which the lines are and will be.
 */
export function planDemand(sites: readonly SiteState[], decided: ReadonlySet<number>, wanting: readonly Wanting[]): DemandPlan {
  const plan: DemandPlan = { sites: [], releases: [], reserves: [], notes: [] };
  for (const before of sites) {
    const { itemId, siteId, demand } = before;
    const held = (lineId: number) => demand.find((line) => line.lineId === lineId)?.reserved ?? zero;
    const ours = wanting.filter((line) => line.itemId === itemId && line.siteId === siteId);
    const others = demand.filter(({ lineId }) => !decided.has(lineId));
    const after = serve(before.onHand, [
      ...others,
      ...ours.map((line) => ({ ...line, reserved: line.standsBack ? zero : least(held(line.lineId), line.wanted) })),
    ]);
    plan.sites.push({ before, after: { ...before, demand: after } });
    for (const lineId of new Set([...demand, ...after].map((line) => line.lineId))) {
      const now = after.find((line) => line.lineId === lineId);
      const quantity = (now?.reserved ?? zero).minus(held(lineId));
      if (quantity.isZero()) continue;
      (quantity.lt(zero) ? plan.releases : plan.reserves).push({ lineId, itemId, siteId, quantity });
      if (now && quantity.gt(zero) && !ours.some((line) => line.lineId === lineId))
        plan.notes.push(`${now.number} line ${now.position} gets ${quantity.toFixed()} it was short of.`);
    }
  }
  return plan;
}
