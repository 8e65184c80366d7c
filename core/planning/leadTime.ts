/** From what it is known how long it takes until more is there: what came to the site before, all that came from the same place, or what was agreed. */
export const leadFroms = ['own', 'all', 'agreed'] as const;
export type LeadFrom = (typeof leadFroms)[number];

/** Days from ordering until it was there, over so many times: the average, and the standard deviation of the sample. */
export interface LeadsSeen {
  count: number;
  days: number;
  spread: number;
}
export interface LeadTime {
  days: number;
  spread: number;
  from: LeadFrom;
  /** So many times it was seen; 0 where it is only agreed. */
  seen: number;
}

/** Fewer receipts tell nothing. */
const enough = 3;

/** How long it takes until more is there: as it took for the item at the site where that was seen often enough, else for all from there, else as agreed, without a spread. */
export function leadTime({ own, all, agreed }: { own: LeadsSeen | undefined; all: LeadsSeen | undefined; agreed: number }): LeadTime {
  const told = (seen: LeadsSeen | undefined, from: LeadFrom): LeadTime | null =>
    seen && seen.count >= enough ? { days: seen.days, spread: seen.spread, from, seen: seen.count } : null;
  return told(own, 'own') ?? told(all, 'all') ?? { days: agreed, spread: 0, from: 'agreed', seen: 0 };
}
