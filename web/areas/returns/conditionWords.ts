import type { Condition } from '@larder/core/outbound/comingBack';

export const conditionWords: Readonly<Record<Condition, string>> = {
  shelf: 'Back to the shelf',
  quarantine: 'Into quarantine',
  scrap: 'Thrown away',
  supplier: 'On to the supplier',
};
