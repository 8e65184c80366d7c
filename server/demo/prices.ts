import { PriceListForm } from '@larder/contract/prices';
import { addDays } from '@larder/core/day';
import { eq } from 'drizzle-orm';
import type { Act } from '../act';
import { createPriceList } from '../areas/prices/lists';
import { keepCustomerCodes } from '../areas/prices/queries';
import { editParty, partyOf } from '../areas/setup/parties';
import { category, taxCode } from '../db/schema/index';
import { idOf } from './idOf';

type ItemIdOf = (sku: string) => number;
type PartyIdOf = (name: string) => Promise<number>;

/** What customers pay: more of a thing for less, shops at the trade's prices, a sale that ends soon; where their goods go, and what they call them. */
export async function setPrices(act: Act, item: ItemIdOf, partyId: PartyIdOf): Promise<void> {
  const categoryId = await idOf(act, category, eq(category.name, 'Jars and labels'));
  await createPriceList(
    act,
    PriceListForm.parse({
      name: 'For everybody',
      forAll: true,
      rows: [
        { itemId: item('JAR-340-GLD'), from: '240', price: '0.56' },
        { itemId: item('JAR-340-GLD'), from: '960', price: '0.52' },
        { itemId: item('SUG-25'), from: '40', percentOff: '6' },
        { itemId: item('SM-STD'), percentOff: '10', endsOn: addDays(act.today, 20) },
      ],
    }),
  );
  const trade = await createPriceList(
    act,
    PriceListForm.parse({
      name: 'Shops and tearooms',
      rows: [
        { categoryId, percentOff: '12.5' },
        { categoryId, from: '480', percentOff: '18' },
        { itemId: item('BX-12'), price: '0.84', startsOn: addDays(act.today, -60) },
      ],
    }),
  );
  const change = async (name: string, part: Partial<Awaited<ReturnType<typeof partyOf>>>) => {
    const { id, isSupplier: _supplier, isCustomer: _customer, retired: _retired, ...facts } = await partyOf(act, await partyId(name));
    await editParty(act, id, { ...facts, ...part });
    return id;
  };
  for (const name of ['Greenacre Farm Shop', 'Brook Street Deli', 'Potter Row Stores', 'Larkspur Gifts', 'Tidewater Candles'])
    await change(name, { priceListId: trade.id });
  const tearoom = await change('Old Mill Tearoom', {
    priceListId: trade.id,
    addresses: [{ label: 'Kitchen door', address: 'Old Mill Tearoom\nKitchen door, Weir Lane\nLarkmoor LM2' }],
  });
  await change('Copse Lane School', {
    salesTaxCodeId: await idOf(act, taxCode, eq(taxCode.code, 'Z')),
    addresses: [
      { label: 'Kitchen', address: 'Copse Lane School\nKitchen, gate B\nCopse Lane, Larkmoor LM4' },
      { label: 'Garden', address: 'Copse Lane School\nThe garden, gate C\nCopse Lane, Larkmoor LM4' },
    ],
  });
  await keepCustomerCodes(act, tearoom, {
    rows: [
      { itemId: item('JAR-227-GLD'), code: 'TEA-JAR-S' },
      { itemId: item('JAR-454-GLD'), code: 'TEA-JAR-L' },
    ],
  });
}
