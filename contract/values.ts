import { isDay } from '@larder/core/day';
import { numberPattern, numberSentence, type NumberKind } from '@larder/core/number';
import { z } from 'zod';

/** The pieces that requests and responses are made of. Decimals travel as strings, days as `YYYY-MM-DD`, moments as ISO 8601 UTC. */
export const Id = z.number().int().positive().max(2147483647);
/** Ids, with commas between. */
export const IdList = z.string().regex(/^(\d{1,10}(,\d{1,10}){0,499})?$/, 'Give at most 500 ids, with commas between.');
export const PathId = z.coerce.number().int().positive().max(2147483647);
export const Day = z.string().refine(isDay, 'Give a day that exists, such as 24 Nov or +7.');
/** Text without control characters but line breaks and tabs. */
const written = (text: string): boolean => !/[^\P{Cc}\n\r\t]/u.test(text);
const unwritten = 'The text holds characters that cannot be kept.';
export const Text = z.string().trim().max(2000, 'At most 2,000 characters.').refine(written, unwritten);
export const ShortText = z.string().trim().max(200, 'At most 200 characters.').refine(written, unwritten);
export const NeededText = ShortText.refine((text) => text !== '', 'This must be filled.');
export const Code = z
  .string()
  .trim()
  .min(1, 'This must be filled.')
  .max(60, 'At most 60 characters.')
  .regex(/^[^\p{C}]+$/u, 'Only characters that can be printed.');

/** A number as typed, of one of the kinds there are. */
export const Typed = (kind: NumberKind) => z.string().trim().regex(numberPattern(kind), numberSentence(kind));

/** A quantity as typed: checked for sense here, against the unit's steps where the item is known. */
export const Quantity = Typed('quantity').refine((text) => Number(text) > 0, 'The quantity must be more than zero.');
export const QuantityOrZero = Typed('quantityOrNone');
export const SignedQuantity = Typed('difference');
export const Price = Typed('price');
/** A part of a hundred, as typed. */
export const Percent = Typed('percent').refine((text) => Number(text) >= 0 && Number(text) <= 100, 'Give per cent from 0 to 100.');
/** An amount of money as typed, above zero. */
export const Money = Typed('money').refine((text) => Number(text) > 0, 'The amount must be more than zero.');
export const MoneyOrZero = Typed('money');
export const Rate = Typed('rate').refine((text) => Number(text) > 0, 'The exchange rate must be more than zero.');
export const Currency = z
  .string()
  .trim()
  .toUpperCase()
  .regex(/^[A-Z]{3}$/, 'Give the currency by its three letters, such as EUR.');
/** The same in any currency; the server knows how many decimals it has. */
export const CurrencyMoney = Typed('amount').refine((text) => Number(text) > 0, 'The amount must be more than zero.');
/** Lots or serials of a line, as they are typed: a lot with its use-by day and how many, a serial by its code. */
export const LotEntry = z.object({
  code: Code,
  useBy: Day.nullable().default(null),
  quantity: Quantity.default('1'),
  /** Our own tag on a serial unit. */
  tag: Code.optional(),
});
export type LotEntry = z.infer<typeof LotEntry>;
/** Goods that come in without an order: where to, how many, what one is worth (null: its purchase price), and their lots or serials. */
export const IncomingLines = z
  .array(z.object({ itemId: Id, binId: Id, quantity: Quantity, unitValue: Price.nullable().default(null), lots: z.array(LotEntry).max(5000).default([]) }))
  .min(1, 'Enter at least one line.')
  .max(1000, 'At most 1,000 lines at once.');
export type IncomingLines = z.infer<typeof IncomingLines>;
/** A line of them of which is known what one is worth. */
export type WorthLine = IncomingLines[number] & { unitValue: string };
/** A decimal in a response. */
export const Amount = z.string();
/** A decimal that tells what something cost, or what was earned beyond it: empty for whom may not see that. */
export const Cost = z.string().meta({ cost: true });
/** Codes that mean an item, each for so many base units. */
export const ItemCodes = z.array(z.object({ code: z.string(), factor: Amount }));
/** A line of an order as it is written: so many of a unit (null: the item's base unit), at a price for so many of that unit, usually one. */
export const OrderLine = z.object({
  id: Id.optional(),
  itemId: Id,
  unitId: Id.nullable().default(null),
  quantity: Quantity,
  price: Price,
  pricePer: Quantity.default('1'),
});
export const Version = z.number().int().positive();

export const Paging = { limit: z.coerce.number().int().min(1).max(200).default(50), cursor: z.string().max(400).optional() };
export const Search = z.string().max(200).refine(written, unwritten).optional();
export const page = <T extends z.ZodType>(row: T) => z.object({ rows: z.array(row), next: z.string().nullable(), total: z.number().optional() });

/** What is measured in money: left out for whom may not see cost. */
export const costMeasures: readonly string[] = ['value', 'unit cost'];

export const Effects = z.object({
  rows: z.array(
    z
      .object({
        itemId: Id,
        sku: z.string(),
        name: z.string(),
        measure: z.enum(['on hand', 'reserved', 'free', 'short', 'on the bench', 'value', 'unit cost']),
        where: z.string(),
        before: Amount,
        after: Amount,
      })
      .meta({ effect: true }),
  ),
  notes: z.array(z.string()),
  /** Sentences about what it costs; null for whom may not see that. */
  costNotes: z.array(Cost).nullable(),
});
export type Effects = z.infer<typeof Effects>;

/** Answer of every action that posts; `movementId` is null for a preview and for what moves no goods. */
export const Posted = z.object({ movementId: Id.nullable(), effects: Effects });
export type Posted = z.infer<typeof Posted>;

export const Stage = z.object({ name: z.string(), done: Amount, of: Amount });
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  errors: z.array(z.object({ field: z.string(), sentence: z.string() })),
  asks: z.array(z.string()),
});
export type Problem = z.infer<typeof Problem>;
