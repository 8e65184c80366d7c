import { Refusal } from '@larder/core/refusal';
import { grantedAt, seesCosts, sitesGranted, type Grant, type Right, type Sites } from '@larder/contract/rights';
import type { Tx } from './db/database';

/** Who is at work, and what they may do where. */
export interface Person {
  id: number;
  name: string;
  email: string;
  grants: readonly Grant[];
}

/** One thing being done: in which transaction, by whom, when. The clock is passed in. */
export interface Act {
  tx: Tx;
  by: Person;
  now: Date;
  /** `now` as a day in the company's time zone. */
  today: string;
  /** Tells who waits how many are done, of how many; where nobody is told, it is not there. */
  tell?: ((done: number, total?: number) => void) | undefined;
  /** Refuses what the person may not do at the site; null where what is done has no site, which needs the right for the whole company. */
  allow: (right: Right, siteId: number | null) => void;
  /** The sites to look at with a right: the one that was asked for, which is refused where the person may not; else all at which the person may. */
  sites: (right: Right, asked?: number) => Sites;
  /** Whether cost and margin are shown to the person. */
  seesCosts: boolean;
  /** Says that what is done with a site's right concerns nothing but the person's own. */
  allowOwn: (right: Right) => void;
  /** The rights that were asked for so far: a write with a site's right that never asked is not kept. */
  asked: ReadonlySet<Right>;
}

/** Makes an act, which remembers what rights were asked for. */
export function actOf(parts: Pick<Act, 'tx' | 'by' | 'now' | 'today' | 'tell'>): Act {
  const asked = new Set<Right>();
  const allow: Act['allow'] = (right, siteId) => {
    asked.add(right);
    if (!grantedAt(parts.by.grants, right, siteId))
      throw new Refusal(
        403,
        'no-right',
        siteId === null ? 'You do not have the right to do this for the whole business.' : 'You do not have the right to do this at that site.',
      );
  };
  return {
    ...parts,
    asked,
    seesCosts: seesCosts(parts.by.grants),
    allow,
    sites: (right, site) => {
      if (site === undefined) {
        asked.add(right);
        return sitesGranted(parts.by.grants, right);
      }
      allow(right, site);
      return [site];
    },
    allowOwn: (right) => void asked.add(right),
  };
}

/** What is at one site, which the person must be allowed to look at. */
export function seenAt<T extends { siteId: number }>(act: Pick<Act, 'allow'>, shown: T): T {
  act.allow('look', shown.siteId);
  return shown;
}
