import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { BillForm } from '@larder/contract/bills';
import { refusalOf } from '../../kit/draft';
import { useDelayed } from '../../kit/delayed';
import { problemOf } from '../../kit/problem';
import { useAccountsQuery } from '../../shared/accounts';
import { useBillableQuery, useCreateBillMutation, useForeseeBillQuery } from './api';
import { creditLines, expectedMoney, proposed, sentLines, type ChargeDraft, type GoodsDraft, type OtherDraft } from './billDraft';

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

/** A bill as it is entered: what is typed, proposed where nothing is, and what posting it would do. */
export function useBill({ party, today, currency, chosen, orderId }: BillBegun) {
  const navigate = useNavigate();
  const { data: billable } = useBillableQuery({ query: { partyId: party?.id ?? 0 } }, { skip: party === null });
  const { data: accounts } = useAccountsQuery({});
  const [kind, setKind] = useState<'bill' | 'credit'>('bill');
  const [reference, setReference] = useState('');
  const [billedOn, setBilledOn] = useState<string | null>(today);
  const [dueOn, setDueOn] = useState<string | null>(null);
  const [currencyTyped, setCurrency] = useState<string | null>(null);
  const [rateTyped, setRate] = useState<string | null>(null);
  const [withTax, setWithTax] = useState(true);
  const [goodsTyped, setGoods] = useState<GoodsDraft[] | null>(null);
  const [ticked, setTicked] = useState<readonly number[] | null>(orderId === null ? null : [orderId]);
  const [chargesTyped, setCharges] = useState<ChargeDraft[] | null>(null);
  const [others, setOthers] = useState<OtherDraft[]>([]);
  const [create, creating] = useCreateBillMutation();
  const { refused, problem, busy, at } = refusalOf(creating);
  const onBill = ({ line }: Pick<GoodsDraft, 'line'>) => ticked === null || ticked.includes(line.orderId);
  const expected = expectedMoney(
    (billable?.lines ?? []).filter((line) => onBill({ line })),
    currency,
  );
  const inCurrency = currencyTyped ?? expected.currency;
  const rate = rateTyped ?? (inCurrency === expected.currency ? expected.rate : '1');
  const all = goodsTyped ?? proposed(billable?.lines ?? [], kind, inCurrency);
  const goods = all.filter(onBill);
  const charges =
    chargesTyped ??
    (billable?.charges ?? []).map((charge) => ({ charge, amount: chosen.includes(charge.id) ? charge.open : '', final: false, taxCodeId: null }));
  const lines = kind === 'bill' ? sentLines(goods, charges, others, withTax) : creditLines(goods, others, withTax);
  const body: BillForm = {
    kind,
    partyId: party?.id ?? 0,
    reference: reference.trim() || 'not typed yet',
    billedOn: billedOn ?? today,
    dueOn,
    currency: inCurrency,
    rate,
    lines,
  };
  const asked = useDelayed(body, 250);
  const ready = party !== null && asked.lines.length > 0;
  const { data: lastForeseen, error } = useForeseeBillQuery({ body: { ...asked, knownReference: true, waits: true, sentBack: true } }, { skip: !ready });
  const unforeseen = ready ? error : undefined;
  const foreseen = ready && !error ? lastForeseen : undefined;
  const post = async (more: Partial<BillForm> = {}) => {
    const result = await create({ body: { ...body, reference, ...more } });
    if (result.data?.id) void navigate(`/books/bills/${result.data.id}`);
  };
  const asks = problem?.asks ?? [];
  const known = { knownReference: true };
  const answers = [
    ...(asks.includes('known-reference') ? [{ label: 'Enter it all the same', run: () => void post(known) }] : []),
    ...(asks.includes('sent-back') ? [{ label: 'Bill all, and expect a credit', run: () => void post({ ...known, sentBack: true }) }] : []),
    ...(asks.includes('waits') ? [{ label: 'Let it wait for the goods', run: () => void post({ ...known, waits: true }) }] : []),
  ];
  const fieldFault = (field: string) => at(field) ?? problemOf(unforeseen)?.errors.find((one) => one.field === field)?.sentence;
  const changeKind = (next: string) => {
    setKind(next === 'credit' ? 'credit' : 'bill');
    setGoods(null);
  };
  return {
    kind,
    changeKind,
    reference,
    setReference,
    billedOn,
    setBilledOn,
    dueOn,
    setDueOn,
    inCurrency,
    setCurrency,
    rate,
    setRate,
    withTax,
    setWithTax,
    ticked,
    setTicked,
    goods,
    setGoods: (next: readonly GoodsDraft[]) => setGoods(all.map((one) => (onBill(one) ? (next[goods.indexOf(one)] ?? one) : one))),
    charges: kind === 'bill' ? charges : [],
    setCharges,
    others,
    setOthers,
    accounts: accounts?.rows ?? [],
    billable,
    sent: lines.length,
    foreseen,
    unforeseen,
    refused,
    problem,
    answers,
    busy,
    at,
    fieldFault,
    post,
  };
}
