import { get, useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import type { BillForm, billable as billableLines } from '@larder/contract/bills';
import type { ResponseOf } from '@larder/contract/endpoint';
import { sentenceIn, useForm } from '../../kit/form';
import { useDelayed } from '../../kit/delayed';
import { problemOf } from '../../kit/problem';
import { useSay } from '../../shared/say';
import { useAccountsQuery } from '../../shared/accounts';
import { useBillableQuery, useCreateBillMutation, useForeseeBillQuery } from './api';
import { creditLines, expectedMoney, proposed, sentLines, type ChargeDraft, type GoodsDraft, type OtherDraft } from './billDraft';

type Billable = ResponseOf<typeof billableLines>;

export interface Party {
  id: number;
  name: string;
}

export interface BillBegun {
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
  kind: 'bill' | 'credit';
  reference: string;
  billedOn: string | null;
  dueOn: string | null;
  currency: string | null;
  rate: string | null;
  withTax: boolean;
  /** Orders it is for; null for all of them. */
  ticked: readonly number[] | null;
  goods: GoodsDraft[] | null;
  charges: ChargeDraft[] | null;
  others: OtherDraft[];
}

const noBill = (today: string, orderId: number | null): BillDraft => ({
  kind: 'bill',
  reference: '',
  billedOn: today,
  dueOn: null,
  currency: null,
  rate: null,
  withTax: true,
  ticked: orderId === null ? null : [orderId],
  goods: null,
  charges: null,
  others: [],
});

/** A bill as it is typed, with what is proposed put in where nothing is. */
function workedOut(typed: BillDraft, billable: Billable | undefined, currency: string, chosen: readonly number[]) {
  const { kind, ticked, withTax, others } = typed;
  const onBill = ({ line }: Pick<GoodsDraft, 'line'>) => ticked === null || ticked.includes(line.orderId);
  const expected = expectedMoney(
    (billable?.lines ?? []).filter((line) => onBill({ line })),
    currency,
  );
  const inCurrency = typed.currency ?? expected.currency;
  const rate = typed.rate ?? (inCurrency === expected.currency ? expected.rate : '1');
  const all = typed.goods ?? proposed(billable?.lines ?? [], kind, inCurrency);
  const goods = all.filter(onBill);
  const charges =
    typed.charges ??
    (billable?.charges ?? []).map((charge) => ({ charge, amount: chosen.includes(charge.id) ? charge.open : '', final: false, taxCodeId: null }));
  const lines = kind === 'bill' ? sentLines(goods, charges, others, withTax) : creditLines(goods, others, withTax);
  /** What all goods are when those on the bill are typed like this. */
  const allWith = (next: readonly GoodsDraft[]) => all.map((one) => (onBill(one) ? (next[goods.indexOf(one)] ?? one) : one));
  return { inCurrency, rate, goods, charges: kind === 'bill' ? charges : [], lines, allWith };
}

/** A bill as it is entered: what is typed, proposed where nothing is, and what posting it would do. */
export function useBill({ party, today, currency, chosen, orderId }: BillBegun) {
  const navigate = useNavigate();
  const say = useSay();
  const { data: billable } = useBillableQuery({ query: { partyId: party?.id ?? 0 } }, { skip: party === null });
  const { data: accounts } = useAccountsQuery({});
  const [create] = useCreateBillMutation();
  const bodyOf = (typed: BillDraft): BillForm => {
    const { inCurrency, rate, lines } = workedOut(typed, billable, currency, chosen);
    const { kind, reference, billedOn, dueOn } = typed;
    return { kind, partyId: party?.id ?? 0, reference, billedOn: billedOn ?? today, dueOn, currency: inCurrency, rate, lines };
  };
  const form = useForm({
    came: noBill(today, orderId),
    body: bodyOf,
    checkedBy: async () => (await import('@larder/contract/bills')).createBill.body,
  });
  const typed = useWatch({ control: form.control }) as BillDraft;
  const worked = workedOut(typed, billable, currency, chosen);
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
  const known = { knownReference: true };
  const answers = [
    ...(asks.includes('known-reference') ? [{ label: 'Enter it all the same', run: () => void post(known) }] : []),
    ...(asks.includes('sent-back') ? [{ label: 'Bill all, and expect a credit', run: () => void post({ ...known, sentBack: true }) }] : []),
    ...(asks.includes('waits') ? [{ label: 'Let it wait for the goods', run: () => void post({ ...known, waits: true }) }] : []),
  ];
  const foreseenProblem = problemOf(unforeseen);
  /** What is said of a line, or of a part of one: they are told by their place among those that are sent. */
  const fieldFault = (field: string) =>
    [form.refused, foreseenProblem].flatMap((problem) => problem?.errors ?? []).find((one) => one.field === field)?.sentence ??
    sentenceIn(get(form.formState.errors, field));
  const put = <K extends keyof BillDraft>(name: K, value: BillDraft[K]) => form.setValue(name as never, value as never, { shouldDirty: true });
  return {
    form,
    typed,
    ...worked,
    put,
    accounts: accounts?.rows ?? [],
    billable,
    foreseen,
    unforeseen,
    foreseenProblem,
    answers,
    fieldFault,
    post,
  };
}
