import type * as contract from '@larder/contract/workRecords';
import type { BodyOf } from '@larder/contract/endpoint';
import { decimal, quantityText } from '@larder/core/decimal';
import { costDifference, type RecordPlan } from '@larder/core/making/record';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, lt, or } from 'drizzle-orm';
import type { Act } from '../../act';
import { among } from '../../db/given';
import { company, lot, person } from '../../db/schema/index';
import { quantityError, refuseErrors, type BinFacts, type ItemFacts } from '../../documents/lines';
import type { WorkNowRow } from './orderQueries';

export type Asked = BodyOf<typeof contract.recordWork>;
export type Form = Omit<Asked, 'charges'> & { charges: Cost[] };
type Cost = Omit<Asked['charges'][number], 'rate' | 'accountId'> & { rate: string; accountId: number };

/** Refuses, by their fields, quantities that cannot be and bins of other sites. */
export function refuseRecord(now: WorkNowRow, form: Asked, items: ReadonlyMap<number, ItemFacts>, bins: ReadonlyMap<number, BinFacts>): void {
  const of = <L extends { id: number }>(lines: readonly L[], lineId: number) => lines.find((line) => line.id === lineId);
  const fault = (itemId: number, quantity: string, field: string): FieldError[] => {
    const facts = items.get(itemId);
    const found = facts && quantityError(facts, quantity, field, true);
    return found ? [found] : [];
  };
  refuseErrors([
    ...form.used.flatMap(({ lineId, quantity }, index): FieldError[] => {
      const line = of(now.lines, lineId);
      return line
        ? fault(line.itemId, quantity, `used.${index}.quantity`)
        : [{ field: `used.${index}.lineId`, sentence: `That line is not on ${now.number}.` }];
    }),
    ...form.made.flatMap(({ lineId, quantity, scrapped, binId }, index): FieldError[] => {
      const line = of(now.products, lineId);
      if (!line) return [{ field: `made.${index}.lineId`, sentence: `That line is not on ${now.number}.` }];
      if (binId !== null && bins.get(binId)?.siteId !== now.siteId) return [{ field: `made.${index}.binId`, sentence: 'That is not a bin of this site.' }];
      if (line.inspected && Number(quantity) > 0 && bins.get(binId ?? line.binId)?.sellable !== false)
        return [{ field: `made.${index}.binId`, sentence: lookedOver(line.sku, now.site) }];
      return [...fault(line.itemId, quantity, `made.${index}.quantity`), ...fault(line.itemId, scrapped, `made.${index}.scrapped`)];
    }),
  ]);
  const nothing = (rows: readonly { quantity: string }[]) => rows.every(({ quantity }) => Number(quantity) === 0);
  const scrapped = form.made.some((one) => Number(one.scrapped) > 0);
  if (nothing(form.used) && nothing(form.made) && nothing(form.charges) && !scrapped && form.rest === 'goes on')
    throw refuseField(422, 'nothing-recorded', 'made.0.quantity', 'Say what was made, or what was used.');
}

const lookedOver = (sku: string, site: string): string =>
  `${sku} is looked over before it is sold: choose a quarantine bin of ${site}. If there is none, make one under Setup, Sites and bins.`;

export const madeIndex = (now: WorkNowRow, form: Pick<Asked, 'made'>): number =>
  Math.max(
    0,
    form.made.findIndex(({ lineId }) => lineId === now.products[0]?.id),
  );

/** What is charged, each at the rate and from the account that were said, else those that the order has under its name. */
export function chargedAs(now: WorkNowRow, { charges }: Asked): Cost[] {
  const named = (name: string) => now.costs.find((cost) => cost.name === name);
  const unknown = charges.findIndex(({ name, rate, accountId }) => (rate === null || accountId === null) && !named(name));
  if (unknown >= 0) {
    const field = charges[unknown]?.rate === null ? 'rate' : 'accountId';
    throw refuseField(422, 'not-planned', `charges.${unknown}.${field}`, `${now.number} has no cost of this name: say its rate and its account.`);
  }
  return charges.map((charge) => {
    const as = named(charge.name);
    return { ...charge, rate: charge.rate ?? as?.rate ?? '0', accountId: charge.accountId ?? as?.accountId ?? 0 };
  });
}

export async function workerOf({ tx: { db }, by }: Act, workerId: number | null): Promise<number> {
  if (workerId === null) return by.id;
  const [known] = await db.select({ id: person.id }).from(person).where(eq(person.id, workerId));
  if (!known) throw refuseField(422, 'no-such-person', 'workerId', 'Choose who did it from the list.');
  return known.id;
}

/** What was used of a lot whose day has passed, while it was at the work too, is asked about. */
export async function refuseUsedPast({ tx: { db }, today }: Act, now: WorkNowRow, form: Asked): Promise<void> {
  const ids = form.used.flatMap(({ lotId, quantity }) => (lotId === null || Number(quantity) === 0 ? [] : [lotId]));
  if (form.pastUse || ids.length === 0) return;
  const past = await db
    .select({ id: lot.id, code: lot.code, useBy: lot.useBy })
    .from(lot)
    .where(and(among(lot.id, ids), or(lot.pastUse, lt(lot.useBy, today))));
  const index = form.used.findIndex(({ lotId }) => past.some(({ id }) => id === lotId));
  const gone = past.find(({ id }) => id === form.used[index]?.lotId);
  if (!gone) return;
  const sku = now.lines.find((line) => line.id === form.used[index]?.lineId)?.sku ?? '';
  throw refuseField(
    409,
    'past-use-by',
    `used.${index}.quantity`,
    `Lot ${gone.code} of ${sku} passed its use-by day on ${gone.useBy ?? ''}. Was it used all the same?`,
    ['pastUse'],
  );
}

/** Work is not recorded while something used was not taken from a shelf; it may be completed all the same by whoever has the right, who says why. */
export function refuseUntaken(act: Act, now: WorkNowRow, form: Asked, plan: RecordPlan): void {
  if (plan.untaken.length === 0 && !plan.nothingUsed) return;
  if (form.untakenReason !== '') {
    act.allow('making.unrecorded', now.siteId);
    if (plan.ends) return;
  }
  if (plan.untaken.length > 0) {
    const errors = plan.untaken.map(({ lineId, quantity }): FieldError => {
      const index = form.used.findIndex((one) => one.lineId === lineId);
      const { sku = '', unit = '' } = now.lines.find((line) => line.id === lineId) ?? {};
      return { field: `used.${index}.quantity`, sentence: `${quantityText(quantity)} ${unit} of ${sku} used, never taken from a shelf.` };
    });
    throw new Refusal(409, 'not-taken', 'Something was used that nobody took from a shelf. Stock says it is still there.', errors);
  }
  throw refuseField(409, 'nothing-used', 'used', 'Nothing that goes in was recorded as used. Say what was used first.');
}

/** What one comes to far from what it should is asked about, before it is completed. */
export async function refuseOtherCost({ tx: { db }, seesCosts }: Act, now: WorkNowRow, form: Form, outcome: contract.Outcome): Promise<void> {
  const [main] = outcome.outputs.filter(({ itemId }) => itemId === now.itemId);
  if (form.otherCost || !main) return;
  const difference = costDifference(decimal(main.unitCost), main.rolledUp === null ? null : decimal(main.rolledUp));
  const [set] = await db.select({ asks: company.makingDifference }).from(company);
  const asks = set?.asks ?? null;
  if (difference === null || asks === null || difference.lte(asks)) return;
  throw refuseField(
    409,
    'other-cost',
    `made.${madeIndex(now, form)}.quantity`,
    seesCosts
      ? `One comes to ${decimal(main.unitCost).toFixed(2)}, and by its bill to ${decimal(main.rolledUp ?? 0).toFixed(2)}: ${difference.toFixed(0)} % apart. Is what was used and made right?`
      : 'What was used for one is far from what its bill says. Is what was used and made right?',
    ['otherCost'],
  );
}
