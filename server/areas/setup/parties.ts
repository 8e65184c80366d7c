import type * as contract from '@larder/contract/setup';
import type { Asked, BodyOf, QueryOf, ResponseOf } from '@larder/contract/endpoint';
import { currencyPlaces } from '@larder/core/books/currency';
import { Refusal, refuseField } from '@larder/core/refusal';
import { and, eq, exists, isNotNull, isNull, ne, or, sql, type SQL } from 'drizzle-orm';
import type { Act } from '../../act';
import { atSites } from '../../db/given';
import { jsonRows } from '../../db/json';
import { cursorOf, everyWord, paged, pageOf } from '../../db/paging';
import { contact, party, partyAddress, place, priceList, purchaseLine, purchaseOrder, salesLine, salesOrder, taxCode } from '../../db/schema/index';
import { lower, sameText } from '../../db/text';
import { recordChanges, refuseStale } from '../../documents/changes';
import { isStanding } from '../../documents/orderFields';

const isRetired = sql<boolean>`${party.retiredAt} is not null`;
const isA = { supplier: eq(party.isSupplier, true), customer: eq(party.isCustomer, true), holder: or(party.isHolder, party.isCustomer) };

const fields = {
  id: party.id,
  name: party.name,
  isSupplier: party.isSupplier,
  isCustomer: party.isCustomer,
  email: party.email,
  phone: party.phone,
  address: party.address,
  notes: party.notes,
  leadDays: party.leadDays,
  minimumOrder: party.minimumOrder,
  payDays: party.payDays,
  taxCodeId: party.taxCodeId,
  salesTaxCodeId: party.salesTaxCodeId,
  priceListId: party.priceListId,
  salesCurrency: party.salesCurrency,
  creditLimit: party.creditLimit,
  addresses: jsonRows(
    { label: partyAddress.label, address: partyAddress.address },
    (select) => select.from(partyAddress).where(eq(partyAddress.partyId, party.id)),
    { orderBy: partyAddress.position },
  ),
  version: party.version,
  retired: isRetired,
  contacts: jsonRows(
    { name: contact.name, role: contact.role, email: contact.email, phone: contact.phone },
    (select) => select.from(contact).where(eq(contact.partyId, party.id)),
    { orderBy: contact.position },
  ),
};

/** Suppliers and customers in use, by the words of their names: what forms choose from. */
export const parties = async ({ tx: { db } }: Act, query: NonNullable<Asked<typeof contract.listParties>['query']>): Promise<contract.Party[]> =>
  db
    .select(fields)
    .from(party)
    .where(and(isNull(party.retiredAt), everyWord(lower(party.name), query.q), query.as === undefined ? undefined : isA[query.as]))
    .orderBy(lower(party.name))
    .limit(Number(query.limit ?? 500));

export async function partyOf({ tx: { db } }: Act, id: number): Promise<contract.Party> {
  const [row] = await db.select(fields).from(party).where(eq(party.id, id));
  if (!row) throw new Refusal(404, 'not-found', 'There is no such supplier or customer.');
  return row;
}

type PartyQuery = QueryOf<typeof contract.partyList>;

/** Conditions of a list of suppliers or customers. */
function listed({ tx: { db } }: Act, { as, life, q }: PartyQuery): SQL | undefined {
  const people = db
    .select({ all: sql`string_agg(${contact.name}, ' ')` })
    .from(contact)
    .where(eq(contact.partyId, party.id));
  return and(
    isA[as],
    life === 'all' ? undefined : life === 'retired' ? isNotNull(party.retiredAt) : isNull(party.retiredAt),
    everyWord(sql`lower(${party.name} || ' ' || ${party.email} || ' ' || ${party.address} || ' ' || coalesce((${people}), ''))`, q),
  );
}

/** How many suppliers or customers the list has in all. */
export async function partiesInAll(act: Act, query: PartyQuery): Promise<ResponseOf<typeof contract.partiesInAll>> {
  const { db } = act.tx;
  const found = db.select({ id: party.id }).from(party).where(listed(act, query));
  return { count: await db.$count(found.as('found')) };
}

/** Suppliers or customers by name, with how many of their orders are open where the person may look. */
export async function partyList(act: Act, query: PartyQuery): Promise<ResponseOf<typeof contract.partyList>> {
  const { db } = act.tx;
  const sites = act.sites('look');
  const sort = { sql: lower(party.name), type: 'text' as const };
  const page = pageOf(sort, party.id, { ...query, direction: 'up' });
  const isBought = query.as === 'supplier';
  const [order, ofParty, decided] = isBought
    ? ([purchaseOrder, purchaseOrder.supplierId, purchaseOrder.placedAt] as const)
    : ([salesOrder, salesOrder.customerId, salesOrder.confirmedAt] as const);
  const here = and(eq(ofParty, party.id), atSites(order.siteId, sites));
  const served = stillServed(act);
  const open = db.$count(order, and(here, isBought ? served.bought : served.sold));
  const first = db.select({ name: contact.name }).from(contact).where(eq(contact.partyId, party.id)).orderBy(contact.position).limit(1);
  const rows = await db
    .select({
      id: party.id,
      name: party.name,
      email: party.email,
      phone: party.phone,
      leadDays: party.leadDays,
      retired: isRetired,
      contact: sql<string>`coalesce((${first}), '')`,
      openOrders: sql<number>`${open}::int`,
      lastOn: sql<string | null>`(${db
        .select({ last: sql`max(${decided})::date::text` })
        .from(order)
        .where(here)})`,
      ...cursorOf(sort, party.id),
    })
    .from(party)
    .where(and(listed(act, query), page.after))
    .orderBy(...page.order)
    .limit(page.limit);
  const { rows: shown, next } = paged(rows, query.limit);
  return { rows: shown, next };
}

/** Orders of which something is still to come, or to go out. */
const stillServed = ({ tx: { db } }: Act) => ({
  bought: and(
    isStanding(purchaseOrder, purchaseOrder.placedAt),
    exists(
      db
        .select({ one: sql`1` })
        .from(purchaseLine)
        .where(and(eq(purchaseLine.orderId, purchaseOrder.id), sql`${purchaseLine.received} + ${purchaseLine.cancelled} < ${purchaseLine.baseQuantity}`)),
    ),
  ),
  sold: and(
    isStanding(salesOrder, salesOrder.confirmedAt),
    exists(
      db
        .select({ one: sql`1` })
        .from(salesLine)
        .where(and(eq(salesLine.orderId, salesOrder.id), sql`${salesLine.dispatched} < ${salesLine.baseQuantity}`)),
    ),
  ),
});

type Defaulted =
  'minimumOrder' | 'payDays' | 'taxCodeId' | 'salesTaxCodeId' | 'priceListId' | 'salesCurrency' | 'creditLimit' | 'phone' | 'notes' | 'contacts' | 'addresses';
type PartyForm = Omit<BodyOf<typeof contract.createParty>, Defaulted> & Partial<Pick<BodyOf<typeof contract.createParty>, Defaulted>>;

/** Adds a supplier, customer or both, with the places goods come from and go to. */
export async function createParty(act: Act, { contacts = [], addresses = [], ...form }: PartyForm): Promise<contract.Party> {
  await refuseParty(act, form, null);
  const [added] = await act.tx.db.insert(party).values(form).returning({ id: party.id });
  const partyId = added?.id as number;
  const kinds = [...(form.isSupplier ? (['supplier'] as const) : []), ...(form.isCustomer ? (['customer'] as const) : [])];
  await act.tx.db.insert(place).values(kinds.map((kind) => ({ kind, partyId, code: form.name, owned: false })));
  await writeContacts(act, partyId, contacts);
  await writeAddresses(act, partyId, addresses);
  return partyOf(act, partyId);
}

/** Changes what is written of a supplier or customer; the places of goods keep its name for their code. */
export async function editParty(act: Act, id: number, { version, contacts, addresses, ...form }: BodyOf<typeof contract.editParty>): Promise<contract.Party> {
  await act.tx.db.select({ id: party.id }).from(party).where(eq(party.id, id)).for('update');
  const was = await partyOf(act, id);
  refuseStale(version, was.version, was.name);
  await refuseParty(act, form, id);
  await act.tx.db
    .update(party)
    .set({ ...form, version: version + 1 })
    .where(eq(party.id, id));
  await act.tx.db
    .update(place)
    .set({ code: form.name })
    .where(and(eq(place.partyId, id), ne(place.code, form.name)));
  await writeContacts(act, id, contacts);
  await writeAddresses(act, id, addresses);
  const is = await partyOf(act, id);
  await recordChanges(act, 'party', id, { ...was, version: 0 }, { ...is, version: 0 });
  return is;
}

async function writeContacts({ tx: { db } }: Act, partyId: number, contacts: readonly contract.Contact[]): Promise<void> {
  await db.delete(contact).where(eq(contact.partyId, partyId));
  if (contacts.length > 0) await db.insert(contact).values(contacts.map((one, position) => ({ ...one, partyId, position })));
}

async function writeAddresses({ tx: { db } }: Act, partyId: number, addresses: contract.Party['addresses']): Promise<void> {
  await db.delete(partyAddress).where(eq(partyAddress.partyId, partyId));
  if (addresses.length > 0) await db.insert(partyAddress).values(addresses.map((one, position) => ({ ...one, partyId, position })));
}

/** Retires a supplier or customer: nothing new is written for it, what is written stays. Refuses one whose orders are open. */
export async function retireParty(act: Act, id: number, retired: boolean): Promise<contract.Party> {
  const { db } = act.tx;
  await db.select({ id: party.id }).from(party).where(eq(party.id, id)).for('update');
  const was = await partyOf(act, id);
  const served = stillServed(act);
  const [bought] = await db
    .select({ number: purchaseOrder.number })
    .from(purchaseOrder)
    .where(and(or(eq(purchaseOrder.supplierId, id), eq(purchaseOrder.shipsToId, id)), served.bought))
    .limit(1);
  const [sold] = await db
    .select({ number: salesOrder.number })
    .from(salesOrder)
    .where(and(eq(salesOrder.customerId, id), served.sold))
    .limit(1);
  const open = bought ?? sold;
  if (retired && open) throw refuseField(409, 'orders-open', 'id', `${open.number} of ${was.name} is still open. Finish or cancel it first.`);
  await db
    .update(party)
    .set({ retiredAt: retired ? act.now.toISOString() : null, version: was.version + 1 })
    .where(eq(party.id, id));
  await recordChanges(act, 'party', id, { retired: was.retired }, { retired });
  return partyOf(act, id);
}

type Chosen = Partial<Pick<contract.Party, 'taxCodeId' | 'salesTaxCodeId' | 'priceListId' | 'salesCurrency'>>;

async function refuseParty({ tx }: Act, form: { name: string } & Chosen, ownId: number | null): Promise<void> {
  const [taken] = await tx.db
    .select({ name: party.name })
    .from(party)
    .where(and(sameText(party.name, form.name), ownId === null ? undefined : ne(party.id, ownId)));
  const isTax = async (id: number | null | undefined) => (id ?? null) === null || (await tx.db.$count(taxCode, eq(taxCode.id, id as number))) > 0;
  if (taken) throw refuseField(409, 'name-in-use', 'name', `${taken.name} is there already.`);
  for (const field of ['taxCodeId', 'salesTaxCodeId'] as const)
    if (!(await isTax(form[field]))) throw refuseField(404, 'no-such-tax', field, 'There is no such tax.');
  const { salesCurrency = null } = form;
  if (salesCurrency !== null && currencyPlaces(salesCurrency) === null)
    throw refuseField(422, 'not-valid', 'salesCurrency', `There is no currency ${salesCurrency}.`);
  const listId = form.priceListId ?? null;
  if (listId !== null && (await tx.db.$count(priceList, and(eq(priceList.id, listId), isNull(priceList.retiredAt)))) === 0)
    throw refuseField(404, 'no-such-list', 'priceListId', 'There is no such price list in use.');
}
