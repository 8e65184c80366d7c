import { Refusal } from '@larder/core/refusal';
import type { Right } from '@larder/contract/rights';
import type { Tx } from './db/database';

/** Who is at work, and what they may do where. */
export interface Person {
  id: number;
  name: string;
  email: string;
  grants: readonly { siteId: number | null; rights: readonly Right[] }[];
}

/** One thing being done: in which transaction, by whom, when. The clock is passed in. */
export interface Act {
  tx: Tx;
  by: Person;
  now: Date;
  /** `now` as a day in the company's time zone. */
  today: string;
  /** Tells who waits how many are done, of how many; where nobody is told, it is not there. */
  tell?: (done: number, total?: number) => void;
}

/** Whether the person has the right at the site, or, without a site, anywhere. */
export const may = (by: Person, right: Right, siteId?: number): boolean =>
  by.grants.some((grant) => grant.rights.includes(right) && (siteId === undefined || grant.siteId === null || grant.siteId === siteId));

/** Refuses what the person may not do at the site. */
export function needRight(by: Person, right: Right, siteId: number): void {
  if (!may(by, right, siteId)) throw new Refusal(403, 'no-right', 'You do not have the right to do this at that site.');
}
