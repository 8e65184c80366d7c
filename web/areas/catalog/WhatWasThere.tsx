import { longDay } from '../../kit/format';
import { Card } from '../../kit/layout';
import { PastPlaces } from '../../shared/PastPlaces';

/** What was there of an item at the end of a day. */
export const WhatWasThere = ({ itemId, asOf }: { itemId: number; asOf: string }) => (
  <Card aria-label="As it stood">
    <h2>
      As it stood<span>at the end of {longDay(asOf)}; what was reserved or on order is not told of a past day</span>
    </h2>
    <PastPlaces itemId={itemId} asOf={asOf} />
  </Card>
);
