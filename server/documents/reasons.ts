import type { reasonPlaces } from '@larder/contract/setupLists';
import { refuseField } from '@larder/core/refusal';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../act';
import { among } from '../db/given';
import { prepared } from '../db/prepared';
import { place, reason } from '../db/schema/index';

/** Reasons that are in use, each with where goods come from or go to for it. */
export const placesOfReasons = prepared(['ids'], (db, { ids }) =>
  db
    .select({ id: reason.id, placeId: place.id, place: reason.place, taxCodeId: reason.taxCodeId })
    .from(reason)
    .innerJoin(place, and(eq(place.kind, reason.place), isNull(place.siteId), isNull(place.partyId)))
    .where(and(among(reason.id, ids), isNull(reason.retiredAt))),
);

/** Where goods go for a reason; refuses one that is not in use, or is for something else, at its field. */
export async function placeOfReason({ tx }: Act, reasonId: number | null, kinds: readonly (typeof reasonPlaces)[number][]): Promise<number> {
  const [because] = await placesOfReasons(tx, { ids: [reasonId ?? 0] });
  if (!because || !kinds.some((kind) => kind === because.place)) throw refuseField(422, 'no-such-reason', 'reasonId', 'Choose a reason from the list.');
  return because.placeId;
}
