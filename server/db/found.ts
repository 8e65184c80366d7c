import { hash } from '@node-rs/argon2';
import { firstRoles } from '@larder/contract/rights';
import { repairs } from '../ledger/repair';
import type { Tx } from './database';
import { account, company, counter, person, place, reason, role, roleGrant, taxCode, taxRate, unit } from './schema/index';

const accounts: (typeof account.$inferInsert)[] = [
  { code: '1000', name: 'Bank', type: 'asset', purpose: 'bank' },
  { code: '1100', name: 'Customers to pay', type: 'asset', purpose: 'receivable' },
  { code: '1200', name: 'Inventory', type: 'inventory', purpose: 'inventory' },
  { code: '1250', name: 'Work in progress', type: 'asset', purpose: 'work-in-progress' },
  { code: '1310', name: 'Tax on purchases, to claim back', type: 'asset', purpose: 'purchase-tax' },
  { code: '1320', name: 'Credits expected from suppliers', type: 'asset', purpose: 'credits-expected' },
  { code: '2100', name: 'Suppliers and carriers to be paid', type: 'liability', purpose: 'payable' },
  { code: '2110', name: 'Goods received, not invoiced', type: 'liability', purpose: 'grni' },
  { code: '2120', name: 'Purchases paid', type: 'liability', purpose: 'purchases-paid' },
  { code: '2130', name: 'Landed cost clearing', type: 'liability', purpose: 'landed-clearing' },
  { code: '2140', name: 'Parcels sent, not billed', type: 'liability', purpose: 'carriage-clearing' },
  { code: '2200', name: 'Tax on sales', type: 'liability', purpose: 'sales-tax' },
  { code: '2210', name: 'Tax on own use', type: 'liability', purpose: 'own-use-tax' },
  { code: '3900', name: 'Opening stock', type: 'equity', purpose: 'opening' },
  { code: '4000', name: 'Sales', type: 'income', purpose: 'sales' },
  { code: '4100', name: 'Freight charged', type: 'income', purpose: 'freight-income' },
  { code: '5000', name: 'Cost of sales', type: 'expense', purpose: 'cost-of-sales' },
  { code: '5100', name: 'Stock differences', type: 'expense', purpose: 'stock-differences' },
  { code: '5110', name: 'Damaged and spoiled', type: 'expense', purpose: null },
  { code: '5200', name: 'Cost variance', type: 'expense', purpose: 'cost-variance' },
  { code: '5210', name: 'Price variance', type: 'expense', purpose: 'price-variance' },
  { code: '5220', name: 'Landed cost variance', type: 'expense', purpose: 'landed-variance' },
  { code: '5230', name: 'Exchange difference', type: 'expense', purpose: 'exchange-difference' },
  { code: '5240', name: 'Making variance', type: 'expense', purpose: 'making-variance' },
  { code: '5300', name: 'Freight on sales', type: 'expense', purpose: 'outbound-freight' },
  { code: '5310', name: 'Parcels billed otherwise', type: 'expense', purpose: 'carriage-variance' },
  { code: '6100', name: 'Own use', type: 'expense', purpose: 'own-use' },
  { code: '6200', name: 'Other costs on bills', type: 'expense', purpose: 'other-costs' },
];

const units = [
  { code: 'each', name: 'each', step: '1' },
  { code: 'pack', name: 'pack', step: '1' },
  { code: 'kg', name: 'kilogram', step: '0.001' },
  { code: 'm', name: 'metre', step: '0.01' },
  { code: 'l', name: 'litre', step: '0.001' },
  { code: 'case', name: 'case', step: '1' },
  { code: 'box', name: 'box', step: '1' },
  { code: 'roll', name: 'roll', step: '1' },
  { code: 'pallet', name: 'pallet', step: '1' },
];

const reasons = [
  { code: 'miscount', name: 'Counted wrong before', place: 'found-or-lost', account: '5100' },
  { code: 'found', name: 'Found', place: 'found-or-lost', account: '5100' },
  { code: 'lost', name: 'Lost', place: 'found-or-lost', account: '5100' },
  { code: 'lost-on-loan', name: 'Lost on loan', place: 'found-or-lost', account: '5100' },
  { code: 'lost-on-the-way', name: 'Lost on the way', place: 'found-or-lost', account: '5100' },
  { code: 'damaged', name: 'Damaged', place: 'scrap', account: '5110' },
  { code: 'own-use', name: 'Used in the business', place: 'own-use', account: '6100' },
  { code: 'not-wanted', name: 'Not wanted any more', place: 'customer', account: '5110' },
  { code: 'wrong-item', name: 'We sent the wrong thing', place: 'customer', account: '5110' },
  { code: 'faulty', name: 'Faulty', place: 'customer', account: '5110' },
  { code: 'damaged-on-way', name: 'Damaged on the way', place: 'customer', account: '5110' },
];

/** Places that belong to no site: where goods come from and go to. */
const outside: Pick<typeof place.$inferInsert, 'kind' | 'code'>[] = [
  { kind: 'found-or-lost', code: 'Found or lost' },
  { kind: 'scrap', code: 'Scrap' },
  { kind: 'own-use', code: 'Own use' },
  { kind: 'opening', code: 'Opening' },
  { kind: 'supplier', code: 'Nobody in particular' },
  { kind: 'used-up', code: 'Used at once' },
  { kind: 'nowhere', code: 'Not from stock' },
  { kind: 'relabel', code: 'Relabelled' },
  { kind: 'made', code: 'Made' },
  { kind: 'before-records', code: 'Sold before these records' },
];

const counters = [
  { kind: 'purchase order', prefix: 'PO-', next: 1001 },
  { kind: 'sales order', prefix: 'SO-', next: 1001 },
  { kind: 'bill', prefix: 'BILL-', next: 1001 },
  { kind: 'landed cost', prefix: 'LC-', next: 1001 },
  { kind: 'parcel', prefix: 'PC-', next: 1001 },
  { kind: 'shipment', prefix: 'SH-', next: 1001 },
  { kind: 'customer return', prefix: 'RET-', next: 1001 },
  { kind: 'transfer', prefix: 'TR-', next: 1001 },
  { kind: 'count', prefix: 'CT-', next: 1001 },
  { kind: 'loan', prefix: 'LN-', next: 1001 },
  { kind: 'work order', prefix: 'WO-', next: 1001 },
  { kind: 'own barcode', prefix: '', next: 1 },
  { kind: 'invoice', prefix: 'INV-', next: 1, gapless: true },
  { kind: 'credit note', prefix: 'CN-', next: 1, gapless: true },
];

/** Once a link that founds the business was printed: what its token is told apart by, and whom it makes anew, if there is somebody already. */
export interface Founding {
  tokenHash: Buffer;
  personId: number | null;
}

/** Somebody who works here, with a password, or with the hash of one that was looked at already. */
export type FirstPerson = { name: string; email: string } & ({ password: string } | { passwordHash: string });

/** Founds a business: its accounts, units, reasons, roles and first person, who owns everything. Returns that person's id. */
export async function found({ db }: Tx, business: { name: string; demo?: boolean }, first: FirstPerson): Promise<number> {
  await db.insert(company).values({ id: 1, name: business.name, demo: business.demo ?? false, repaired: repairs });
  const ids = await db.insert(account).values(accounts).returning({ id: account.id, code: account.code });
  const accountId = (code: string) => ids.find((row) => row.code === code)?.id as number;
  await db.insert(unit).values(units);
  await db.insert(reason).values(reasons.map(({ account: code, ...row }) => ({ ...row, accountId: accountId(code) })));
  await db.insert(place).values(outside.map((row) => ({ ...row, owned: false })));
  await db.insert(counter).values(counters);
  const [standard, zeroRated] = await db
    .insert(taxCode)
    .values([
      { code: 'S', name: 'Standard rate' },
      { code: 'Z', name: 'Zero rate' },
    ])
    .returning({ id: taxCode.id });
  await db.insert(taxRate).values([
    { taxCodeId: standard?.id as number, fromDay: '2011-01-04', rate: '20' },
    { taxCodeId: zeroRated?.id as number, fromDay: '2011-01-04', rate: '0' },
  ]);
  await db.insert(role).values(Object.entries(firstRoles).map(([name, rights]) => ({ name, rights })));
  return addPerson({ db }, first, 'Owner');
}

/** Adds a person with a role at all sites. The password is kept as an argon2id hash. */
export async function addPerson({ db }: Pick<Tx, 'db'>, given: FirstPerson, roleName: string): Promise<number> {
  const [added] = await db
    .insert(person)
    .values({ name: given.name, email: given.email, passwordHash: 'passwordHash' in given ? given.passwordHash : await hash(given.password) })
    .returning({ id: person.id });
  const roles = await db.select().from(role);
  const personId = added?.id as number;
  await db.insert(roleGrant).values({ personId, roleId: roles.find(({ name }) => name === roleName)?.id as number });
  return personId;
}
