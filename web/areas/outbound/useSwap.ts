import type { ItemRow } from '@larder/contract/catalog';
import { useFormContext } from 'react-hook-form';
import { plainPrice } from '../../kit/format';
import { usePut } from '../../kit/row';
import { baseQuantity, type DraftLine } from '../../shared/draftLines';
import { useLazyItemsMeantQuery } from '../../shared/items';
import type { QuoteForm } from './quoteForm';

/** A line as it is once another item is sold in its place: as many base units, at the price of that item until the customer's own is known. */
const swapped = (line: DraftLine, item: ItemRow): Partial<DraftLine> => {
  const asked = line.asked ?? { itemId: line.itemId, sku: line.sku, name: line.name };
  return {
    itemId: item.id,
    sku: item.sku,
    name: item.name,
    unit: item.unit,
    unitId: null,
    factor: '1',
    units: item.units,
    baseUnit: item.unit,
    quantity: baseQuantity(line) ?? line.quantity,
    price: plainPrice(item.salesPrice ?? '0'),
    pricePer: '1',
    ownPrice: false,
    direct: '0',
    bring: null,
    promisedOn: null,
    // Back at what was asked for, nothing was swapped.
    asked: asked.itemId === item.id ? null : asked,
  };
};

/** Returns what sells another item, by its SKU, in the place of a line of the quote around. */
export function useSwap(index: number): (sku: string) => Promise<void> {
  const { getValues } = useFormContext<QuoteForm>();
  const put = usePut<DraftLine>(`lines.${index}`);
  const [read] = useLazyItemsMeantQuery();
  return async (sku) => {
    const { data } = await read({ body: { codes: [sku] } });
    const item = data?.rows[0]?.items[0];
    if (item) put(swapped(getValues(`lines.${index}`), item));
  };
}
