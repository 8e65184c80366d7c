import { amountFault } from '@larder/core/books/currency';
import { decimal, moneyLimit, zero, type Decimal } from '@larder/core/decimal';
import { Refusal, refuseField, type FieldError } from '@larder/core/refusal';
import { and, eq, isNull, ne } from 'drizzle-orm';
import type { Act } from '../../act';
import { refuseErrors } from '../../documents/lines';
import { type Entry } from '../../ledger/entry';
import { type Charge, type OrderedLine, type SentParcel } from './ordered';
import { bill, party } from '../../db/schema/index';
import { sameText } from '../../db/text';
import type { Form, Worked, Draft } from './work';

export function refuseTooMuch(form: Form, drafts: readonly Draft[]): void {
  refuseErrors(
    drafts.flatMap(({ line, amount, company }, index): FieldError[] =>
      [amount, company].some((value) => value.abs().gte(moneyLimit))
        ? [{ field: `lines.${index}.${line.kind === 'goods' ? 'price' : 'amount'}`, sentence: 'This comes to more than any account can hold.' }]
        : [],
    ),
  );
  if (decimal(form.rate).gte(moneyLimit)) throw refuseField(422, 'too-large', 'rate', 'This rate is more than any account can hold.');
}

interface Named {
  ordered: ReadonlyMap<number, OrderedLine>;
  charges: ReadonlyMap<number, Charge>;
  parcels: ReadonlyMap<number, SentParcel>;
}

export function refuseLines(form: Form, currency: string, { ordered, charges, parcels }: Named, entry: Entry): void {
  const credited = new Map<number, Decimal>();
  refuseErrors(
    form.lines.flatMap((line, index): FieldError[] => {
      const field = (name: string) => `lines.${index}.${name}`;
      const odd = line.kind === 'goods' ? null : amountFault(line.amount, currency);
      if (odd) return [{ field: field('amount'), sentence: odd }];
      if (line.kind === 'other') {
        if (!entry.isFree(line.accountId)) return [{ field: field('accountId'), sentence: 'Choose an account that is not kept by goods or bills themselves.' }];
        return [];
      }
      if (line.kind === 'charge') {
        const charge = charges.get(line.chargeId);
        if (!charge) return [{ field: field('chargeId'), sentence: 'There is no such charge.' }];
        if (charge.over) return [{ field: field('chargeId'), sentence: `${charge.label} is settled already; nothing more is expected.` }];
        if (form.lines.slice(0, index).some((other) => other.kind === 'charge' && other.chargeId === line.chargeId && other.final))
          return [{ field: field('chargeId'), sentence: `${charge.label} is settled by a line above.` }];
        return form.kind === 'credit' ? [{ field: field('amount'), sentence: 'A credit on a charge is entered as an other line.' }] : [];
      }
      if (line.kind === 'parcel') {
        const parcel = parcels.get(line.parcelId);
        const refuse = (sentence: string): FieldError[] => [{ field: field('parcelId'), sentence }];
        if (!parcel) return refuse('There is no such parcel, or it has not gone out.');
        if (parcel.partyId !== form.partyId) return refuse(`${parcel.number} was sent with somebody else.`);
        if (parcel.billed || form.lines.slice(0, index).some((other) => other.kind === 'parcel' && other.parcelId === line.parcelId))
          return refuse(`${parcel.number} is billed already; nothing more is expected for it.`);
        return form.kind === 'credit' ? [{ field: field('amount'), sentence: 'A credit on a parcel is entered as an other line.' }] : [];
      }
      const at = ordered.get(line.purchaseLineId);
      if (!at) return [{ field: field('purchaseLineId'), sentence: 'There is no such order line.' }];
      if (at.supplierId !== form.partyId) return [{ field: field('purchaseLineId'), sentence: `${at.label} was ordered from somebody else.` }];
      if (!at.placed) return [{ field: field('purchaseLineId'), sentence: `${at.label} has not been placed.` }];
      if (line.kind === 'credit' && form.kind !== 'credit') return [{ field: field('kind'), sentence: 'Only a credit takes amounts off.' }];
      if (line.kind === 'credit' && decimal(at.received).isZero()) return [{ field: field('amount'), sentence: `Nothing has been received on ${at.label}.` }];
      if (line.kind === 'credit' || form.kind === 'bill') return [];
      const all = (credited.get(at.id) ?? zero).plus(line.quantity);
      credited.set(at.id, all);
      return all.gt(decimal(at.billed).minus(at.received))
        ? [{ field: field('quantity'), sentence: `Not so many of ${at.sku} were billed and sent back.` }]
        : [];
    }),
  );
}

/** Refuses a number of theirs that was used before, unless the person knows; and goods that have not come or went back, unless the person says what is meant. */
export async function refuseDoubts(act: Act, form: Form, worked: Worked, ownId: number | null): Promise<void> {
  const { db } = act.tx;
  const [biller] = await db.select({ name: party.name }).from(party).where(eq(party.id, form.partyId));
  if (!biller) throw refuseField(404, 'no-such-party', 'partyId', 'Choose who bills this.');
  const [used] = await db
    .select({ number: bill.number })
    .from(bill)
    .where(
      and(
        eq(bill.partyId, form.partyId),
        sameText(bill.reference, form.reference),
        eq(bill.kind, form.kind),
        isNull(bill.undoneAt),
        ownId === null ? undefined : ne(bill.id, ownId),
      ),
    )
    .limit(1);
  if (used && !form.knownReference)
    throw refuseField(409, 'number-used', 'reference', `${biller.name} used ${form.reference} before: it is ${used.number}. Enter it all the same?`, [
      'known-reference',
    ]);
  if (worked.ahead.length === 0 || form.waits) return;
  const wentBack = worked.ahead.every(({ sentBack }) => sentBack !== null);
  throw new Refusal(
    409,
    wentBack ? 'sent-back' : 'not-received',
    wentBack
      ? `${worked.ahead.map(({ sentBack }) => sentBack).join('; ')}. Bill all, and expect a credit for what went back? Or let the bill wait until they are replaced?`
      : `Not so many have come: ${worked.ahead.map(({ text }) => text).join('; ')}. Let the bill wait for them?`,
    form.lines
      .flatMap((line, index) => (line.kind === 'goods' ? [{ field: `lines.${index}.quantity`, sentence: 'More than has come and is not billed yet.' }] : []))
      .slice(0, 1),
    wentBack ? ['sent-back', 'waits'] : ['waits'],
  );
}
