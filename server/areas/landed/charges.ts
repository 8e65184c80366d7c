import { amountFault, currencyFaults } from '@larder/core/books/currency';
import { notCharged, type Charged, type ChargePart } from '@larder/core/costing/adjust';
import { landedCost, unmeasured, type LandedCharge, type LandedLine } from '@larder/core/costing/landed';
import { decimal, money, moneyLimit, zero, type Decimal } from '@larder/core/decimal';
import { refuseField, type FieldError } from '@larder/core/refusal';
import type * as contract from '@larder/contract/landed';
import type { BodyOf } from '@larder/contract/endpoint';
import { and, eq, isNull } from 'drizzle-orm';
import type { Act } from '../../act';
import { landedCharge, landedShare } from '../../db/schema/index';
import { refuseErrors } from '../../documents/lines';
import { companyCurrency } from '../../ledger/company';
import type { ReceiptLine } from '../../ledger/receipts';

type Form = BodyOf<typeof contract.createSheet>;
type ChargeForm = Form['charges'][number];

/** One charge on one receipt line: what it was, what it is to be. */
export interface Change extends ChargePart {
  charge: number;
  lineId: number;
  leftOut: boolean;
  typed: Decimal | null;
}

/** What charges of a form come to on each line, from what they were; `shares` by charge and line, `1/2`. Refuses, by the field, what cannot be spread. */
export async function spreadOver(
  act: Act,
  form: Form,
  facts: readonly contract.LandedLine[],
  lines: readonly ReceiptLine[],
  shares: ReadonlyMap<string, Charged>,
): Promise<Change[]> {
  refuseCharges(form, await companyCurrency(act));
  const measured = facts.map((line): LandedLine => ({
    quantity: decimal(line.quantity),
    value: decimal(line.value),
    weight: decimal(line.weight ?? 0),
    volume: decimal(line.volume ?? 0),
  }));
  const charges = form.charges.map((charge, index): LandedCharge => {
    const leftOut = facts.flatMap(({ lineId }, at) => (charge.leftOut.includes(lineId) ? [at] : []));
    const typed = facts.map(({ lineId }) => decimal(charge.typed.find((one) => one.lineId === lineId)?.part ?? 0));
    const spread = { amount: estimateOf(charge), by: charge.by, leftOut, typed };
    if (leftOut.length === facts.length) throw refuseField(422, 'nothing-left', `charges.${index}.leftOut`, `${charge.name} falls on no line at all.`);
    const without = unmeasured(measured, spread);
    if (without.length > 0)
      throw refuseField(
        422,
        'not-measured',
        `charges.${index}.by`,
        `${charge.name} cannot be spread by ${charge.by}: ${without.map((at) => facts[at]?.sku).join(', ')} ${without.length === 1 ? 'has' : 'have'} none.`,
      );
    return spread;
  });
  const results = landedCost(measured, charges);
  return form.charges.flatMap((charge, index) =>
    facts.map(({ lineId }, at): Change => {
      const bearer = lines.find((one) => one.lineId === lineId) as ReceiptLine;
      return {
        charge: index,
        lineId,
        leftOut: charge.leftOut.includes(lineId),
        typed: charge.by === 'typed' ? decimal(charge.typed.find((one) => one.lineId === lineId)?.part ?? 0) : null,
        bearer,
        before: (charge.id === undefined ? undefined : shares.get(`${charge.id}/${lineId}`)) ?? notCharged(bearer.net),
        amount: results[at]?.shares[index] ?? zero,
      };
    }),
  );
}

/** A charge in company currency, whole cents. */
const estimateOf = ({ amount, rate }: ChargeForm): Decimal => money(decimal(amount).times(rate));

/** What is wrong with charges' currencies, rates and amounts, by the field. */
function refuseCharges(form: Form, company: string): void {
  refuseErrors(
    form.charges.flatMap((charge, index): FieldError[] => {
      const currency = charge.currency ?? company;
      const [fault] = currencyFaults(currency, charge.rate, company);
      if (fault) return [{ field: `charges.${index}.${fault.field}`, sentence: fault.sentence }];
      const odd = amountFault(charge.amount, currency) ?? (estimateOf(charge).gte(moneyLimit) ? 'This comes to more than any account can hold.' : null);
      return odd ? [{ field: `charges.${index}.amount`, sentence: odd }] : [];
    }),
  );
}

/** What each charge that stands has come to on each line, by charge and line, `1/2`. */
export const sharesOf = async ({ tx }: Act, sheetId: number): Promise<Map<string, Charged>> => {
  const { chargeId: charge, lineId: line, amount: share, brought: of, here: now, weight: weighed, toStock: stock } = landedShare;
  const rows = await tx.db
    .select({ chargeId: charge, lineId: line, amount: share, brought: of, here: now, weight: weighed, toStock: stock })
    .from(landedShare)
    .innerJoin(landedCharge, eq(landedCharge.id, landedShare.chargeId))
    .where(and(eq(landedCharge.sheetId, sheetId), isNull(landedCharge.removedAt)));
  return new Map(
    rows.map(({ chargeId, lineId, amount, brought, here, weight, toStock }) => [
      `${chargeId}/${lineId}`,
      { amount: decimal(amount), of: decimal(brought), here: decimal(here), weight: decimal(weight), toStock: decimal(toStock) },
    ]),
  );
};

/** Writes new charges behind `from` others; their ids. */
export async function addCharges(act: Act, sheetId: number, charges: readonly ChargeForm[], from: number): Promise<number[]> {
  if (charges.length === 0) return [];
  const company = await companyCurrency(act);
  const rows = await act.tx.db
    .insert(landedCharge)
    .values(
      charges.map((charge, index) => ({
        sheetId,
        position: from + index + 1,
        name: charge.name,
        by: charge.by,
        currency: charge.currency ?? company,
        rate: charge.rate,
        amount: charge.amount,
        estimate: estimateOf(charge).toFixed(2),
        partyId: charge.partyId,
      })),
    )
    .returning({ id: landedCharge.id });
  return rows.map(({ id }) => id);
}

/** Writes the charges as they are now; returns their ids in the order of the form. */
export async function keepCharges(act: Act, sheetId: number, form: Form): Promise<number[]> {
  const added = await addCharges(
    act,
    sheetId,
    form.charges.filter(({ id }) => id === undefined),
    form.charges.length,
  );
  const ids: number[] = [];
  for (const charge of form.charges) {
    if (charge.id === undefined) {
      ids.push(added.shift() as number);
      continue;
    }
    ids.push(charge.id);
    const { name, by, rate, amount, partyId } = charge;
    const known = await act.tx.db
      .update(landedCharge)
      .set({ name, by, rate, amount, estimate: estimateOf(charge).toFixed(2), partyId })
      .where(and(eq(landedCharge.id, charge.id), eq(landedCharge.sheetId, sheetId), isNull(landedCharge.removedAt)))
      .returning({ id: landedCharge.id });
    if (known.length === 0) throw refuseField(404, 'no-such-charge', 'charges', 'One of these charges is not on this worksheet.');
  }
  return ids;
}
