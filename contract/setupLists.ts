import { z } from 'zod';
import { endpoint } from './endpoint';
import { Code, Day, Id, NeededText, PathId, Percent, ShortText } from './values';

/** What a reason is for: which way goods go, and so what stands against them. */
export const reasonPlaces = ['found-or-lost', 'scrap', 'own-use', 'customer'] as const;
/** Documents whose numbers run. */
export const numberedKinds = [
  'purchase order',
  'sales order',
  'bill',
  'landed cost',
  'parcel',
  'shipment',
  'invoice',
  'credit note',
  'customer return',
  'transfer',
  'count',
  'loan',
  'work order',
] as const;
/** Those of them whose numbers have no gaps: where they begin is said before the first is given. */
export const gaplessKinds: readonly (typeof numberedKinds)[number][] = ['invoice', 'credit note'];
export type NumberedKind = (typeof numberedKinds)[number];
/** Lists whose rows are retired when they are not wanted any more, and taken back; what refers to them keeps them. */
export const retirable = ['categories', 'units', 'reasons', 'taxes', 'departments', 'carriers', 'attributes'] as const;
/** The parts of a unit that can be counted. */
export const steps = ['1', '0.1', '0.01', '0.001', '0.0001'] as const;

const Step = z.enum(steps, 'Choose the smallest part that is counted.');
const retired = z.boolean();
const one = z.object({ id: PathId });
const done = z.object({});

export const setupLists = endpoint({
  method: 'GET',
  path: '/api/setup/lists',
  summary: 'Sites, categories, units, reasons, departments, taxes and running numbers, with what was retired',
  right: 'look',
  shows: ['place', 'reference', 'setting'],
  seenBy: 'everyone',
  response: z.object({
    sites: z.array(z.object({ id: Id, code: z.string(), name: z.string(), bins: z.number(), retired })),
    categories: z.array(
      z.object({
        id: Id,
        name: z.string(),
        inventoryAccountId: Id.nullable(),
        costAccountId: Id.nullable(),
        salesAccountId: Id.nullable(),
        items: z.number(),
        retired,
      }),
    ),
    units: z.array(z.object({ id: Id, code: z.string(), name: z.string(), step: Step, items: z.number(), retired })),
    reasons: z.array(z.object({ id: Id, code: z.string(), name: z.string(), place: z.enum(reasonPlaces), accountId: Id, taxCodeId: Id.nullable(), retired })),
    departments: z.array(z.object({ id: Id, code: z.string(), name: z.string(), retired })),
    taxes: z.array(
      z.object({
        id: Id,
        code: z.string(),
        name: z.string(),
        retired,
        /** Newest first, per cent. */
        rates: z.array(z.object({ fromDay: Day, rate: z.string(), recoverable: z.string() })),
      }),
    ),
    numbers: z.array(z.object({ kind: z.enum(numberedKinds), prefix: z.string(), next: z.number() })),
  }),
});

const changing = { right: 'setup.edit', changes: ['reference', 'setting'], response: done } as const;

export const editSite = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/setup/sites/:id',
  summary: 'Change the code and name of a site',
  changes: ['place', 'reference'],
  params: one,
  body: z.object({ code: Code, name: NeededText }),
});
export const retireListed = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/setup/lists/:list/:id/retire',
  summary: 'Retire a category, unit, reason, department, tax, carrier or attribute, or take it back',
  changes: ['reference', 'attribute', 'carrier'],
  params: z.object({ list: z.enum(retirable), id: PathId }),
  body: z.object({ retired }),
});
export const editUnit = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/setup/units/:id',
  summary: 'Change a unit of measure; in which parts it is counted only before an item has it',
  changes: ['reference', 'item'],
  params: one,
  body: z.object({ code: Code.max(12, 'At most 12 characters.'), name: NeededText, step: Step }),
});

/** `taxCodeId`: the tax that is due on own use, unless a sheet says otherwise. */
const Reason = z.object({ code: Code, name: NeededText, place: z.enum(reasonPlaces), accountId: Id, taxCodeId: Id.nullable().default(null) });
export const createReason = endpoint({ ...changing, method: 'POST', path: '/api/setup/reasons', summary: 'Add a reason for corrections', body: Reason });
export const editReason = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/setup/reasons/:id',
  summary: 'Change a reason; what it is for only before it was given',
  params: one,
  body: Reason,
});

const Department = z.object({ code: Code, name: NeededText });
export const createDepartment = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/setup/departments',
  summary: 'Add a department that costs are borne by',
  body: Department,
});
export const editDepartment = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/setup/departments/:id',
  summary: 'Change the code and name of a department',
  changes: ['reference', 'setting', 'journal'],
  params: one,
  body: Department,
});

export const createTax = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/setup/taxes',
  summary: 'Add a tax with its rate',
  body: z.object({ code: Code, name: NeededText, rate: Percent }),
});
export const editTax = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/setup/taxes/:id',
  summary: 'Change the code and name of a tax',
  params: one,
  body: z.object({ code: Code, name: NeededText }),
});
export const addTaxRate = endpoint({
  ...changing,
  method: 'POST',
  path: '/api/setup/taxes/:id/rates',
  summary: 'Give a tax another rate from a day to come on',
  params: one,
  body: z.object({ fromDay: Day, rate: Percent, recoverable: Percent.default('100') }),
});
export const editNumber = endpoint({
  ...changing,
  method: 'PUT',
  path: '/api/setup/numbers/:kind',
  summary: 'Change what the numbers of a kind of document begin with, and the next one',
  params: z.object({ kind: z.enum(numberedKinds) }),
  body: z.object({
    prefix: ShortText.max(12, 'At most 12 characters.').regex(/^(|.*\D)$/u, 'End it with a letter or a sign, so that the number stays apart.'),
    next: z.number('Give a whole number.').int('Give a whole number.').min(1, 'Give a whole number from 1 on.').max(1_000_000_000, 'At most 1,000,000,000.'),
  }),
});
