import { ItemForm } from '@larder/contract/catalog';
import { addDays } from '@larder/core/day';
import { eq } from 'drizzle-orm';
import type { Act } from '../act';
import { createAccount } from '../areas/books/service';
import { createItem } from '../areas/catalog/service';
import { createPurchase, decidePurchase } from '../areas/inbound/service';
import { createParty } from '../areas/setup/service';
import { editLot, lot } from '../areas/stock/lots';
import { lotList } from '../areas/stock/lotList';
import { attribute, party, taxCode, unit } from '../db/schema/index';
import { idOf } from './idOf';

/** What Larkmoor buys and sells that lies on no shelf. */
const things = [
  { sku: 'TAPE-48', name: 'Packing tape, 48 mm', kind: 'not-stocked', cost: '0.85', price: null, pack: '36' },
  { sku: 'FILL-PAPER', name: 'Filling paper, roll', kind: 'not-stocked', cost: '6.40', price: null, pack: '1' },
  { sku: 'BRAND-IRON', name: 'Name burnt into a hive box', kind: 'service', cost: null, price: '9.50', pack: '1' },
  { sku: 'FIRST-LESSON', name: 'First lesson at the apiary, an hour', kind: 'service', cost: null, price: '28.00', pack: '1' },
  { sku: 'CARR-UK', name: 'Carriage, mainland', kind: 'charge', cost: null, price: '7.90', pack: '1' },
] as const;

/** Sets these up: the tape and paper have an account of their own. Returns the items by SKU. */
export async function setUpBesides(act: Act): Promise<Map<string, number>> {
  const packing = await createAccount(act, { code: '5410', name: 'Packing used', type: 'expense' });
  const unitId = await idOf(act, unit, eq(unit.code, 'each'));
  const taxCodeId = await idOf(act, taxCode, eq(taxCode.code, 'S'));
  const made = new Map<string, number>();
  for (const { sku, name, kind, cost, price, pack } of things) {
    const supplierId = await saltmarsh(act);
    const { id } = await createItem(
      act,
      ItemForm.parse({
        sku,
        name,
        kind,
        unitId,
        taxCodeId,
        purchasePrice: cost,
        salesPrice: price,
        costAccountId: kind === 'not-stocked' ? packing.id : null,
        salesAccountId: null,
        suppliers: cost === null ? [] : [{ supplierId, code: `SM-${sku}`, packSize: pack, price: cost, leadDays: 3 }],
      }),
    );
    made.set(sku, id);
  }
  return made;
}

const saltmarsh = (act: Act): Promise<number> => idOf(act, party, eq(party.name, 'Saltmarsh Packaging'));

/** This morning: tape is on its way, and the extractors have their tags and the days they are to be looked over. */
export async function besidesThisMorning(act: Act, items: ReadonlyMap<string, number>, siteId: number): Promise<void> {
  const line = (sku: string, quantity: string, price: string) => ({ itemId: items.get(sku) as number, unitId: null, quantity, price, pricePer: '1' });
  const order = await createPurchase(act, {
    supplierId: await saltmarsh(act),
    siteId,
    expectedOn: addDays(act.today, 1),
    note: '',
    shipsToId: null,
    orderedOn: null,
    currency: undefined,
    rate: '1',
    charges: [],
    lines: [line('TAPE-48', '72', '0.85'), line('FILL-PAPER', '4', '6.40')],
  });
  await decidePurchase(act, order.id, { decision: 'place', version: order.version });
  await abroad(act, line, siteId);
  const inspection = await idOf(act, attribute, eq(attribute.name, 'Next inspection'));
  const { rows } = await lotList(act, { kind: 'serial', state: 'here', sort: 'code', direction: 'up', limit: 12 });
  for (const [index, { id }] of rows.entries()) {
    const { version } = await lot(act, id);
    const value = addDays(act.today, [-4, 9, 26, 61, 120, 200][index % 6] as number);
    await editLot(act, id, {
      version,
      useBy: null,
      tag: `TL-${String(index + 31).padStart(4, '0')}`,
      condition: ['good', 'good', 'new', 'handle loose', 'good', 'new'][index % 6] as string,
      boughtOn: addDays(act.today, -400 + index * 20),
      warrantyUntil: addDays(act.today, 330 + index * 20),
      attributes: [{ attributeId: inspection, value }],
    });
  }
}

/** From abroad, ordered the week before: tape priced by the thousand, in euros. */
async function abroad(
  act: Act,
  line: (sku: string, quantity: string, price: string) => { itemId: number; unitId: null; quantity: string; price: string; pricePer: string },
  siteId: number,
): Promise<void> {
  const form = { name: 'Terwel Packaging', isSupplier: true, isCustomer: false, email: '', address: '', leadDays: 14 };
  const { id: supplierId } = await createParty(act, form);
  const order = await createPurchase(act, {
    supplierId,
    siteId,
    expectedOn: addDays(act.today, 6),
    note: 'Priced for a thousand',
    shipsToId: null,
    orderedOn: addDays(act.today, -8),
    currency: 'EUR',
    rate: '0.8560',
    charges: [],
    lines: [{ ...line('TAPE-48', '500', '790.00'), pricePer: '1000' }],
  });
  await decidePurchase(act, order.id, { decision: 'place', version: order.version });
}
