import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { BillForm, billable as billableLines } from '@larder/contract/bills';
import type { carriersBills, SentBill } from '@larder/contract/carriers';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useForm } from '../../kit/form';
import { useDelayed } from '../../kit/delayed';
import { useVersionOf } from '../../kit/row';
import { problemOf } from '../../kit/problem';
import { useSay } from '../../shared/say';
import { useAccountsQuery } from '../../shared/accounts';
import { useBillableQuery, useCarriersBillsQuery, useCreateBillMutation, useForeseeBillQuery } from './api';
import { billField, expectedMoney, proposed, sentLines, untyped, type ChargeRow, type GoodsRow, type OtherDraft, type ParcelRow } from './billDraft';

type Billable = ResponseOf<typeof billableLines>;
type Carried = ResponseOf<typeof carriersBills>;
/** What is known of what a party can bill. */
interface Known {
  billable: Billable | undefined;
  carried: Carried | undefined;
}

export interface Party {
  id: number;
  name: string;
}

export interface BillBegun {
  /** Whom it was begun for. */
  party: Party | null;
  today: string;
  /** Of the business. */
  currency: string;
  /** Charges that it was begun for. */
  chosen: readonly number[];
  orderId: number | null;
}

/** A bill while it is typed. What is null is as it is proposed. */
export interface BillDraft {
  party: Party | null;
  kind: 'bill' | 'credit';
  reference: string;
  billedOn: string | null;
  dueOn: string | null;
  currency: string | null;
  rate: string | null;
  withTax: boolean;
  /** Orders it is for; null for all of them. */
  ticked: readonly number[] | null;
  goods: GoodsRow[];
  charges: ChargeRow[];
  parcels: ParcelRow[];
  others: OtherDraft[];
}

const noBill = ({ party, today, orderId }: BillBegun, billable: Billable | undefined, carried: Carried | undefined): BillDraft => ({
  party,
  kind: 'bill',
  reference: '',
  billedOn: today,
  dueOn: null,
  currency: null,
  rate: null,
  withTax: true,
  ticked: orderId === null ? null : [orderId],
  goods: (billable?.lines ?? []).map(untyped),
  charges: (billable?.charges ?? []).map(({ id }) => ({ chargeId: id, amount: null, final: false, taxCodeId: null })),
  parcels: (carried?.parcels ?? []).map(({ id }) => ({ parcelId: id, amount: '', taxCodeId: null })),
  others: [],
});
const rowKeys = {
  goods: (row: GoodsRow) => String(row.purchaseLineId),
  charges: (row: ChargeRow) => String(row.chargeId),
  parcels: (row: ParcelRow) => String(row.parcelId),
};

/** A bill as it is typed, with what is proposed put in where nothing is. */
function workedOut(typed: BillDraft, { billable, carried }: Known, currency: string, chosen: readonly number[]) {
  const { kind, ticked } = typed;
  const isOn = ({ orderId }: { orderId: number }) => ticked === null || ticked.includes(orderId);
  const expected = expectedMoney((billable?.lines ?? []).filter(isOn), currency);
  const inCurrency = typed.currency ?? expected.currency;
  const rate = typed.rate ?? (inCurrency === expected.currency ? expected.rate : '1');
  const goods = proposed(billable?.lines ?? [], kind, inCurrency)
    .filter(({ line }) => isOn(line))
    .map((one) => {
      const row = typed.goods[one.at];
      return { ...one, quantity: row?.quantity ?? one.quantity, price: row?.price ?? one.price };
    });
  const charges = (billable?.charges ?? []).map((charge, at) => {
    const { amount = null, final = false, taxCodeId = null } = typed.charges[at] ?? {};
    return { at, charge, amount: amount ?? (chosen.includes(charge.id) ? charge.open : ''), final, taxCodeId };
  });
  const parcels = (carried?.parcels ?? []).map((parcel, at) => {
    const { amount = '', taxCodeId = null } = typed.parcels[at] ?? {};
    return { at, parcel, amount, taxCodeId };
  });
  const isBill = kind === 'bill';
  return {
    inCurrency,
    rate,
    goods,
    charges: isBill ? charges : [],
    parcels: isBill ? parcels : [],
    sent: sentLines({ ...typed, goods, charges, parcels }),
  };
}

/** A bill as it is entered: what is typed, proposed where nothing is, and what posting it would do. */
export function useBill(begun: BillBegun) {
  const { today, currency, chosen } = begun;
  const navigate = useNavigate();
  const say = useSay();
  const [party, setParty] = useState(begun.party);
  const { currentData: billable } = useBillableQuery({ query: { partyId: party?.id ?? 0 } }, { skip: party === null });
  const { currentData: carried } = useCarriersBillsQuery({ query: { partyId: party?.id ?? 0 } }, { skip: party === null });
  const known = { billable, carried };
  const { data: accounts } = useAccountsQuery({});
  const [create] = useCreateBillMutation();
  const bodyOf = (typed: BillDraft): BillForm => {
    const { inCurrency, rate, sent } = workedOut(typed, known, currency, chosen);
    const { kind, reference, billedOn, dueOn } = typed;
    const lines = sent.map(({ line }) => line);
    return { kind, partyId: typed.party?.id ?? 0, reference, billedOn: billedOn ?? today, dueOn, currency: inCurrency, rate, lines };
  };
  // What can be billed comes in, and comes in again when somebody else bills some of it: what is typed stays with its line.
  const came = noBill(begun, billable, carried);
  const form = useForm({
    came,
    version: useVersionOf(known),
    rowKeys,
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/bills')).createBill.body,
    sentAs: (path, now) => (path === 'partyId' ? 'party' : billField(path, workedOut(now, known, currency, chosen).sent)),
  });
  const typed = useWatch({ control: form.control }) as BillDraft;
  const worked = workedOut(typed, known, currency, chosen);
  const body = bodyOf(typed);
  const asked = useDelayed({ ...body, reference: body.reference.trim() || 'not typed yet' }, 250);
  const ready = party !== null && asked.lines.length > 0;
  const { data: lastForeseen, error } = useForeseeBillQuery({ body: { ...asked, knownReference: true, waits: true, sentBack: true } }, { skip: !ready });
  const unforeseen = ready ? error : undefined;
  const foreseen = ready && !error ? lastForeseen : undefined;
  const post = async (more: Partial<BillForm> = {}) => {
    const posted = await form.send((sent) => create({ body: { ...sent, ...more } }));
    if (!posted?.id) return;
    say({ text: `Posted ${typed.kind} ${typed.reference}.` });
    void navigate(`/books/bills/${posted.id}`);
  };
  const asks = form.refused?.asks ?? [];
  const isKnown = { knownReference: true };
  const answers = [
    ...(asks.includes('known-reference') ? [{ label: 'Enter it all the same', run: () => void post(isKnown) }] : []),
    ...(asks.includes('sent-back') ? [{ label: 'Bill all, and expect a credit', run: () => void post({ ...isKnown, sentBack: true }) }] : []),
    ...(asks.includes('waits') ? [{ label: 'Let it wait for the goods', run: () => void post({ ...isKnown, waits: true }) }] : []),
  ];
  const foreseenProblem = problemOf(unforeseen);
  const put = <K extends keyof BillDraft>(name: K, value: BillDraft[K]) => form.setValue(name as never, value as never, { shouldDirty: true });
  /** What can be billed, and in what, is another matter when somebody else bills it; their number is typed next. */
  const chooseParty = (next: Party | null) => {
    setParty(next);
    for (const name of ['goods', 'charges', 'parcels'] as const) put(name, []);
    for (const name of ['ticked', 'currency', 'rate'] as const) put(name, null);
    if (next) form.setFocus('reference');
  };
  /** Puts in what a carrier's bill asks for each parcel, as it came. */
  const takeIn = ({ reference, billedOn, dueOn, lines }: SentBill) => {
    put('reference', reference);
    put('billedOn', billedOn);
    put('dueOn', dueOn);
    put(
      'parcels',
      (carried?.parcels ?? []).map(({ id }) => ({ parcelId: id, amount: lines.find(({ parcelId }) => parcelId === id)?.amount ?? '', taxCodeId: null })),
    );
    const unknown = lines.filter(({ parcelId }) => parcelId === null);
    put(
      'others',
      unknown.map(({ tracking, amount }) => ({ text: `${tracking}, no parcel of ours`, accountId: '', amount, taxCodeId: null })),
    );
  };
  return {
    takeIn,
    sentBills: carried?.sent ?? [],
    form,
    typed,
    party,
    chooseParty,
    ...worked,
    put,
    accounts: accounts?.rows ?? [],
    billable,
    foreseen,
    unforeseen,
    foreseenProblem,
    answers,
    post,
  };
}
