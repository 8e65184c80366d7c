import { SalesForm } from '@larder/contract/outbound';
import { addDays } from '@larder/core/day';
import { decimal } from '@larder/core/decimal';
import { priceOf } from '@larder/core/inbound/terms';
import { pricesAt } from '@larder/core/outbound/pricing';
import type { Act } from '../act';
import { customerTerms } from '../areas/prices/queries';
import { createParty, editParty, partyOf } from '../areas/setup/parties';
import { sell } from './sell';

/** How much of ours a euro is. */
const rate = '0.856';

/** A customer abroad who pays in euros and buys on credit, with an order and a quote; and one at home who may not owe much more than they do. */
export async function abroad(act: Act, { siteId, itemId, nearLimit }: { siteId: number; itemId: (sku: string) => number; nearLimit: number }): Promise<void> {
  const customer = await createParty(act, {
    name: 'Veldzicht Honing',
    isSupplier: false,
    isCustomer: true,
    email: 'inkoop@veldzicht.example',
    address: 'Veldzicht Honing\nDijkweg 14\n8307 AB Zomerrade',
    leadDays: 7,
    salesCurrency: 'EUR',
    creditLimit: '1500.00',
  });
  const order = async (reference: string, skus: [string, number][], isAgreed: boolean) => {
    const { rows } = await customerTerms(act, customer.id, { itemIds: skus.map(([sku]) => itemId(sku)).join(',') });
    const lines = skus.map(([sku, quantity]) => {
      const terms = rows.find((row) => row.itemId === itemId(sku));
      const price = terms && priceOf(pricesAt(terms, rate, 2), decimal(quantity));
      return { itemId: itemId(sku), quantity: String(quantity), price: price?.toFixed() ?? '0' };
    });
    const form = { customerId: customer.id, siteId, shipBy: addDays(act.today, 6), reference, currency: 'EUR', rate, lines };
    await sell(act, SalesForm.parse(form), isAgreed);
  };
  await order('VH-0231', [['HB-NAT-10', 4], ['SM-STD', 6]], true); // prettier-ignore
  await order('VH-0234', [['JAR-340-GLD', 96], ['VS-10', 2]], false); // prettier-ignore
  const { retired: _retired, id, isSupplier: _supplier, isCustomer: _customer, ...near } = await partyOf(act, nearLimit);
  await editParty(act, id, { ...near, creditLimit: '900.00' });
}
