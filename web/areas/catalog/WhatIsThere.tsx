import type { Item } from '@larder/contract/catalog';
import type { ItemStock } from '@larder/contract/stock';
import { Card, Split, Stack } from '../../kit/layout';
import { StepChart } from '../../kit/StepChart';
import { PeekPlaces } from '../../shared/PeekPlaces';
import { ItemPrices } from './ItemPrices';
import { WhatComes, WhatWants } from './ItemWaits';

/** What people look for on an item: how it went and will go, where it lies, what comes, what wants it, and what it costs. */
export function WhatIsThere({ item, stock }: { item: Item; stock: ItemStock }) {
  return (
    <Split>
      <Stack>
        <Card aria-label="Past and expected stock">
          <h2>
            Past and expected stock<span>each step is a document</span>
          </h2>
          <div className="pad">
            <StepChart wide today={stock.today} past={stock.past} expected={stock.expected} reorderPoint={stock.reorderPoint} />
          </div>
        </Card>
        <Card component="div">
          <PeekPlaces data={stock} whole />
        </Card>
      </Stack>
      <Stack>
        <WhatComes stock={stock} />
        <WhatWants stock={stock} />
        <ItemPrices item={item} stock={stock} />
      </Stack>
    </Split>
  );
}
