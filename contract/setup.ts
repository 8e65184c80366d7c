import { lotPatternFault } from '@larder/core/making/lotNumber';
import { mostBins } from '@larder/core/setup/bins';
import { z } from 'zod';
import { endpoint } from './endpoint';
import { inAllOf } from './inAll';
import { Amount, Code, Currency, Id, Money, MoneyOrZero, NeededText, page, Paging, PathId, Percent, Search, ShortText, Text, Typed, Version } from './values';

const Named = z.object({ id: Id, code: z.string(), name: z.string() });

const Category = z.object({
  id: Id,
  name: z.string(),
  /** Accounts of its items; null: those the books use for all. */
  inventoryAccountId: Id.nullable(),
  costAccountId: Id.nullable(),
  salesAccountId: Id.nullable(),
});
/** Nothing new is given it; what has it keeps it. */
const retirable = { retired: z.boolean() };

/** The small lists that forms choose from. */
const Share = z.number('Give a whole number.').int('Give a whole number.').min(1, 'Give per cent from 1 to 100.').max(100, 'Give per cent from 1 to 100.');
const Service = Typed('percent').refine((text) => Number(text) >= 50 && Number(text) < 100, 'Give per cent from 50 to below 100.');
/** By what items are of a class, and levels are suggested. */
const PlanningSet = z.object({
  /** Up to these shares of the value of all that is used, in per cent, items are of class A, then of B. */
  shareA: Share,
  shareB: Share,
  /** Of how many of a hundred orders each class should be there at once. */
  serviceA: Service,
  serviceB: Service,
  serviceC: Service,
  /** What one order costs, and one transfer, and what goods cost in a year while they lie, in per cent of their worth. */
  orderCost: MoneyOrZero,
  transferCost: MoneyOrZero,
  holdingRate: Percent,
});
export type PlanningSet = z.infer<typeof PlanningSet>;

export const reference = endpoint({
  method: 'GET',
  path: '/api/setup/reference',
  summary: 'Sites, units, categories, reasons and taxes',
  right: 'look',
  shows: ['place', 'reference', 'setting'],
  seenBy: 'everyone',
  response: z.object({
    sites: z.array(Named),
    units: z.array(Named.extend({ step: z.string(), ...retirable })),
    categories: z.array(Category.extend(retirable)),
    /** Parts of buildings, as bins are said to be in them. */
    zones: z.array(z.string()),
    /** Why stock is corrected, and why customers bring things back. */
    reasons: z.array(Named.extend({ place: z.string(), accountId: Id, taxCodeId: Id.nullable() })),
    returnReasons: z.array(Named),
    taxes: z.array(Named.extend({ rate: z.string(), ...retirable })),
    departments: z.array(Named.extend(retirable)),
    shipDays: z.number(),
    /** Days through which a quote's prices are offered. */
    quoteDays: z.number(),
    /** By how many per cent what one made costs may differ from its bill before it is asked about; null: never asked. */
    makingDifference: z.number().nullable(),
    /** What the numbers of lots that are made consist of. */
    lotPattern: z.string(),
    planning: PlanningSet,
    /** How much is free at a site may be seen by whom may look only at others. */
    freeSeenElsewhere: z.boolean(),
  }),
});
export const editCompany = endpoint({
  method: 'POST',
  path: '/api/setup/company',
  summary:
    'Say whether people of one site see what is free at others, in how many days orders ship, how long prices of quotes hold, when the cost of what is made is asked about, how its lots are numbered, and by what levels are suggested',
  right: 'setup.edit',
  changes: ['setting'],
  body: z.object({
    freeSeenElsewhere: z.boolean().optional(),
    shipDays: z.number('Give whole days.').int('Give whole days.').min(0, 'Give days from 0 to 90.').max(90, 'Give days from 0 to 90.').optional(),
    quoteDays: z.number('Give whole days.').int('Give whole days.').min(0, 'Give days from 0 to 365.').max(365, 'Give days from 0 to 365.').optional(),
    makingDifference: z
      .number('Give a whole number.')
      .int('Give a whole number.')
      .min(0, 'Give per cent from 0 to 1000.')
      .max(1000, 'Give per cent from 0 to 1000.')
      .nullable()
      .optional(),
    lotPattern: z
      .string()
      .trim()
      .superRefine((pattern, { addIssue }) => {
        const fault = lotPatternFault(pattern);
        if (fault !== null) addIssue({ code: 'custom', message: fault });
      })
      .optional(),
    planning: PlanningSet.refine(({ shareA, shareB }) => shareA <= shareB, {
      message: 'B goes on from where A ends: give no less than for A.',
      path: ['shareB'],
    }).optional(),
  }),
  response: z.object({}),
});

const Bin = z.object({
  id: Id,
  siteId: Id,
  siteName: z.string(),
  code: z.string(),
  sellable: z.boolean(),
  unplaced: z.boolean(),
  zone: z.string(),
  walk: z.number(),
  retired: z.boolean(),
  items: z.number(),
});
export type Bin = z.infer<typeof Bin>;
export const listBins = endpoint({
  method: 'GET',
  path: '/api/setup/bins',
  summary: 'Bins by site and letters',
  right: 'look',
  shows: ['place', 'stock'],
  seenBy: 'everyone',
  query: z.object({ siteId: PathId.optional(), q: Search, retired: z.enum(['without', 'with']).default('without') }),
  response: z.object({ rows: z.array(Bin) }),
});
export const createSite = endpoint({
  method: 'POST',
  path: '/api/setup/sites',
  summary: 'Open a site, with its bench and a place for goods without a bin',
  right: 'setup.edit',
  changes: ['place', 'steps', 'reference'],
  body: z.object({ code: Code, name: NeededText }),
  response: Named,
});
export const createBins = endpoint({
  method: 'POST',
  path: '/api/setup/bins',
  summary: 'Make bins at a site',
  right: 'setup.edit',
  changes: ['place', 'steps'],
  body: z.object({
    siteId: Id,
    codes: z.array(Code).min(1, 'Give at least one bin code.').max(mostBins, 'At most 2,000 bins at once.'),
    sellable: z.boolean().default(true),
    zone: ShortText.default(''),
  }),
  response: z.object({ rows: z.array(Bin) }),
});
/** Changes chosen bins; what is left out stays. */
export const editBins = endpoint({
  method: 'POST',
  path: '/api/setup/bins/bulk',
  summary: 'Change bins: zone, walking order, for sale or quarantine, retired when empty',
  right: 'setup.edit',
  changes: ['place', 'stock', 'sale', 'item'],
  body: z.object({
    ids: z.array(Id).min(1, 'Choose at least one bin.').max(mostBins),
    zone: ShortText.optional(),
    sellable: z.boolean().optional(),
    retired: z.boolean().optional(),
    /** Their walking order becomes the order of `ids`, from here on. */
    walkFrom: z.number('Give a whole number.').int('Give a whole number.').min(0, 'Not less than 0.').max(1_000_000, 'At most 1,000,000.').optional(),
  }),
  response: z.object({ changed: z.number() }),
});
export const retireSite = endpoint({
  method: 'POST',
  path: '/api/setup/sites/:id/retire',
  summary: 'Retire a site that is empty, or take it back',
  right: 'setup.edit',
  changes: ['place'],
  params: z.object({ id: PathId }),
  body: z.object({ retired: z.boolean() }),
  response: Named,
});
export const createCategory = endpoint({
  method: 'POST',
  path: '/api/setup/categories',
  summary: 'Add a category of items',
  right: 'items.edit',
  changes: ['reference'],
  body: z.object({ name: NeededText }),
  response: Category,
});
export const editCategory = endpoint({
  method: 'PUT',
  path: '/api/setup/categories/:id',
  summary: 'Rename a category, or give its items accounts of their own; what they are worth moves along',
  right: 'setup.edit',
  changes: ['reference', 'item', 'journal', 'handover'],
  params: z.object({ id: PathId }),
  body: z.object({
    name: NeededText,
    inventoryAccountId: Id.nullable().default(null),
    costAccountId: Id.nullable().default(null),
    salesAccountId: Id.nullable().default(null),
  }),
  response: Category,
});
export const createUnit = endpoint({
  method: 'POST',
  path: '/api/setup/units',
  summary: 'Add a unit of measure',
  right: 'items.edit',
  changes: ['reference'],
  body: z.object({
    code: Code.max(12, 'At most 12 characters.'),
    name: NeededText,
    /** The smallest part of it that is counted. */
    step: z.enum(['1', '0.1', '0.01', '0.001', '0.0001'], 'Choose the smallest part that is counted.').default('1'),
  }),
  response: Named.extend({ step: z.string() }),
});

const Contact = z.object({ name: NeededText, role: ShortText.default(''), email: ShortText.default(''), phone: ShortText.default('') });
export type Contact = z.infer<typeof Contact>;

const Address = z.object({ label: NeededText, address: Text.refine((text) => text !== '', 'This must be filled.') });

const Party = z.object({
  id: Id,
  name: z.string(),
  isSupplier: z.boolean(),
  isCustomer: z.boolean(),
  email: z.string(),
  phone: z.string(),
  address: z.string(),
  notes: z.string(),
  contacts: z.array(Contact),
  retired: z.boolean(),
  leadDays: z.number(),
  minimumOrder: Amount.nullable(),
  /** Days that a customer has to pay in. */
  payDays: z.number(),
  taxCodeId: Id.nullable(),
  salesTaxCodeId: Id.nullable(),
  priceListId: Id.nullable(),
  salesCurrency: z.string().nullable(),
  creditLimit: Amount.nullable(),
  /** Where goods go beside its own address. */
  addresses: z.array(z.object({ label: z.string(), address: z.string() })),
  version: Version,
});
export type Party = z.infer<typeof Party>;
export const listParties = endpoint({
  method: 'GET',
  path: '/api/setup/parties',
  summary: 'Suppliers, customers, or whoever can hold what is lent, by letters',
  right: 'look',
  shows: ['party'],
  seenBy: 'everyone',
  query: z.object({ as: z.enum(['supplier', 'customer', 'holder']).optional(), q: Search, limit: z.coerce.number().int().min(1).max(500).default(500) }),
  response: z.object({ rows: z.array(Party) }),
});
const PartyFacts = {
  name: NeededText,
  email: ShortText.default(''),
  phone: ShortText.default(''),
  address: Text.default(''),
  notes: Text.default(''),
  contacts: z.array(Contact).max(50, 'At most 50 people.').default([]),
  leadDays: z.number().int('Give whole days.').min(0, 'Give days from 0 to 365.').max(365, 'Give days from 0 to 365.').default(7),
  /** In company currency, what a supplier asks an order to come to at least; null: nothing. */
  minimumOrder: Money.nullable().default(null),
  /** Days that a customer has to pay in. */
  payDays: z.number().int('Give whole days.').min(0, 'Give days from 0 to 365.').max(365, 'Give days from 0 to 365.').default(30),
  /** The tax a supplier charges on everything; null: as each item says. */
  taxCodeId: Id.nullable().default(null),
  /** The tax on everything a customer buys; null: as each item says. */
  salesTaxCodeId: Id.nullable().default(null),
  /** The prices a customer buys at; null: those for all. */
  priceListId: Id.nullable().default(null),
  /** What a customer pays in; null: the business's own currency. */
  salesCurrency: Currency.nullable().default(null),
  /** In company currency, how much a customer may owe, what is ordered and not yet invoiced included; null: any amount. */
  creditLimit: Money.nullable().default(null),
  addresses: z.array(Address).max(50, 'At most 50 addresses.').default([]),
};
export const getParty = endpoint({
  method: 'GET',
  path: '/api/setup/parties/:id',
  summary: 'Names, addresses, people and terms of a supplier or customer',
  right: 'look',
  shows: ['party'],
  seenBy: 'everyone',
  params: z.object({ id: PathId }),
  response: Party,
});
const PartyRow = Party.pick({ id: true, name: true, email: true, phone: true, leadDays: true, retired: true }).extend({
  /** Who is spoken to first. */
  contact: z.string(),
  /** Orders that are not done yet, at the sites the person may see; and the day of the last one. */
  openOrders: z.number(),
  lastOn: z.string().nullable(),
});
export type PartyRow = z.infer<typeof PartyRow>;
export const partyList = endpoint({
  method: 'GET',
  path: '/api/setup/party-list',
  summary: 'Suppliers or customers, by words in their names, addresses and people, with their open orders',
  right: 'look',
  shows: ['party', 'purchase', 'sale'],
  seenBy: 'sites',
  query: z.object({
    as: z.enum(['supplier', 'customer']),
    q: Search,
    life: z.enum(['active', 'retired', 'all']).default('active'),
    ...Paging,
  }),
  response: page(PartyRow),
});
export const partiesInAll = inAllOf({ ...partyList, seenBy: 'everyone' }, {});
export const retireParty = endpoint({
  method: 'POST',
  path: '/api/setup/parties/:id/retire',
  summary: 'Retire a supplier or customer that has nothing open, or take it back',
  right: 'items.edit',
  changes: ['party'],
  params: z.object({ id: PathId }),
  body: z.object({ retired: z.boolean() }),
  response: Party,
});
export const editParty = endpoint({
  method: 'PUT',
  path: '/api/setup/parties/:id',
  summary: 'Change name, address and terms of a supplier or customer',
  right: 'items.edit',
  changes: ['party', 'purchase', 'sale', 'bill', 'price'],
  params: z.object({ id: PathId }),
  body: z.object({ ...PartyFacts, version: Version }),
  response: Party,
});
export const createParty = endpoint({
  method: 'POST',
  path: '/api/setup/parties',
  summary: 'Add a supplier or customer',
  right: 'items.edit',
  changes: ['party', 'steps'],
  body: z
    .object({
      ...PartyFacts,
      isSupplier: z.boolean().default(false),
      isCustomer: z.boolean().default(false),
    })
    .refine((party) => party.isSupplier || party.isCustomer, { message: 'Say whether this is a supplier, a customer or both.', path: ['isSupplier'] }),
  response: Party,
});

/** Things of which it is kept who changed them. */
export const changeKinds = [
  'item',
  'family',
  'party',
  'lot',
  'purchase order',
  'sales order',
  'worksheet',
  'price list',
  'bill of materials',
  'work order',
] as const;
export const lastChange = endpoint({
  method: 'GET',
  path: '/api/setup/changes/last',
  summary: 'Who changed something last, and when',
  right: 'look',
  shows: ['item', 'lot', 'party', 'purchase', 'sale', 'landed', 'price', 'bom', 'work'],
  seenBy: 'everyone',
  query: z.object({ kind: z.enum(changeKinds), id: PathId }),
  /** Nobody, since it was made: null. */
  response: z.object({ last: z.object({ person: z.string(), at: z.string() }).nullable() }),
});
