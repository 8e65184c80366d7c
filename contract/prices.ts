import { z } from 'zod';
import { endpoint } from './endpoint';
import { Amount, Code, Currency, Day, Id, NeededText, PathId, Percent, Price, QuantityOrZero, Version } from './values';

/** What customers pay: lists of prices, and what an item costs one of them. */

const Row = z.object({
  itemId: Id.nullable().default(null),
  categoryId: Id.nullable().default(null),
  /** From so many base units on; 0 for any quantity. */
  from: QuantityOrZero.default('0'),
  /** Of one base unit; null where a part is taken off the item's own sales price. */
  price: Price.nullable().default(null),
  percentOff: Percent.nullable().default(null),
  startsOn: Day.nullable().default(null),
  endsOn: Day.nullable().default(null),
});

/** What each row of a list is about, and that it says one thing of it; the days in their order. */
const Rows = z
  .array(Row)
  .max(5000, 'At most 5,000 rows on one list.')
  .superRefine((rows, context) => {
    for (const [index, row] of rows.entries()) {
      const refuse = (field: string, message: string) => context.addIssue({ code: 'custom', path: [index, field], message });
      if ((row.itemId === null) === (row.categoryId === null)) refuse('itemId', 'Say which item or category it is for.');
      if ((row.price === null) === (row.percentOff === null)) refuse('price', 'Give a price, or per cent off.');
      else if (row.categoryId !== null && row.price !== null) refuse('price', 'A category has many items: give per cent off.');
      if (row.startsOn !== null && row.endsOn !== null && row.endsOn < row.startsOn) refuse('endsOn', 'It ends before it begins.');
    }
  });

export const PriceListForm = z.object({
  name: NeededText,
  /** For customers without a list of their own, and for what theirs says nothing of. */
  forAll: z.boolean().default(false),
  rows: Rows,
});
export type PriceListForm = z.infer<typeof PriceListForm>;

const PriceList = z.object({
  id: Id,
  name: z.string(),
  forAll: z.boolean(),
  version: Version,
  retired: z.boolean(),
  /** How many customers buy by it. */
  customers: z.number(),
  rows: z.array(
    z.object({
      itemId: Id.nullable(),
      /** SKU of the item, or the name of the category. */
      code: z.string(),
      name: z.string(),
      unit: z.string(),
      salesPrice: Amount.nullable(),
      categoryId: Id.nullable(),
      from: Amount,
      price: Amount.nullable(),
      percentOff: Amount.nullable(),
      startsOn: Day.nullable(),
      endsOn: Day.nullable(),
    }),
  ),
});
export type PriceList = z.infer<typeof PriceList>;

const one = z.object({ id: PathId });
const changing = { right: 'items.edit', changes: ['price', 'reference'] } as const;

export const listPriceLists = endpoint({
  method: 'GET',
  path: '/api/prices/lists',
  summary: 'Price lists, by name, with how many rows and customers each has',
  right: 'look',
  shows: ['price', 'party'],
  seenBy: 'everyone',
  response: z.object({
    rows: z.array(PriceList.omit({ rows: true, version: true }).extend({ prices: z.number() })),
  }),
});
export const getPriceList = endpoint({
  method: 'GET',
  path: '/api/prices/lists/:id',
  summary: 'One price list with its rows',
  right: 'look',
  shows: ['price', 'party', 'item', 'reference'],
  seenBy: 'everyone',
  params: one,
  response: PriceList,
});
export const createPriceList = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/prices/lists',
  summary: 'Add a price list',
  body: PriceListForm,
  response: PriceList,
});
export const editPriceList = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/prices/lists/:id',
  summary: 'Change a price list and its rows',
  params: one,
  body: PriceListForm.extend({ version: Version }),
  response: PriceList,
});
export const retirePriceList = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/prices/lists/:id/retire',
  summary: 'Retire a price list that no customer buys by, or take it back',
  params: one,
  body: z.object({ retired: z.boolean(), version: Version }),
  response: PriceList,
});

export const customerTerms = endpoint({
  method: 'GET',
  path: '/api/prices/customers/:id',
  summary: 'What a customer pays for items today, by quantity, and the tax on them',
  right: 'look',
  shows: ['price', 'party', 'item', 'reference'],
  seenBy: 'everyone',
  params: one,
  query: z.object({
    itemIds: z.string().regex(/^\d{0,9}(,\d{1,9}){0,499}$/, 'Give the ids of at most 500 items, apart by commas.'),
    /** In which currency the order is; the customer's when it is not said. */
    currency: Currency.optional(),
  }),
  response: z.object({
    /** The tax on everything they buy; null: as each item says. */
    taxCodeId: Id.nullable(),
    list: z.string().nullable(),
    /** How much of the company's currency one of the order's was when it was used last; null when it never was. Prices are in the company's. */
    rate: Amount.nullable(),
    rows: z.array(
      z.object({
        itemId: Id,
        /** What they call it, or nothing. */
        code: z.string(),
        /** Of one base unit, when no quantity of `breaks` is reached. */
        price: Amount.nullable(),
        breaks: z.array(z.object({ from: Amount, price: Amount })),
        taxCodeId: Id.nullable(),
      }),
    ),
  }),
});

const CustomerCodes = z.object({ rows: z.array(z.object({ itemId: Id, sku: z.string(), name: z.string(), code: z.string() })) });
export const customerCodes = endpoint({
  method: 'GET',
  path: '/api/prices/customers/:id/codes',
  summary: 'What a customer calls our items',
  right: 'look',
  shows: ['price', 'item'],
  seenBy: 'everyone',
  params: one,
  response: CustomerCodes,
});
export const keepCustomerCodes = endpoint({
  method: 'PUT',
  path: '/api/prices/customers/:id/codes',
  summary: 'Write down what a customer calls our items',
  right: 'items.edit',
  changes: ['price'],
  params: one,
  body: z.object({
    rows: z
      .array(z.object({ itemId: Id, code: Code }))
      .max(5000, 'At most 5,000 codes.')
      .superRefine((rows, context) => {
        const seen = new Map<string, number>();
        for (const [index, { code }] of rows.entries()) {
          const before = seen.get(code.toLowerCase());
          if (before !== undefined) context.addIssue({ code: 'custom', path: [index, 'code'], message: `Line ${before + 1} has this code as well.` });
          else seen.set(code.toLowerCase(), index);
        }
      }),
  }),
  response: CustomerCodes,
});
