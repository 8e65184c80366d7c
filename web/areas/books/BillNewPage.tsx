import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { BillForm } from '@larder/contract/bills';
import { amountText } from '@larder/core/books/currency';
import { decimal } from '@larder/core/decimal';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { refusalOf } from '../../kit/draft';
import { useDelayed } from '../../kit/delayed';
import { Choice, Field } from '../../kit/Field';
import { amount, count } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { problemOf } from '../../kit/problem';
import { useTitle } from '../../kit/title';
import { useMeQuery } from '../../shared/me';
import { PartyPicker } from '../../shared/PartyPicker';
import { useAccountsQuery } from '../../shared/accounts';
import { useBillableQuery, useClearingQuery, useCreateBillMutation, useForeseeBillQuery } from './api';
import { BillLines } from './BillLines';
import { BillOrders } from './BillOrders';
import { creditLines, expectedMoney, proposed, sentLines, type ChargeDraft, type GoodsDraft, type OtherDraft } from './billDraft';
import { BookEffectPanel } from './BookEffectPanel';

interface Party {
  id: number;
  name: string;
}

/** A bill as it is entered: whose, for which goods at which prices, for which charges; what differs and what it does is said before it is posted. */
export function BillNewPage() {
  useTitle('Enter a bill');
  const [search] = useSearchParams();
  const wanted = Number(search.get('party')) || null;
  const { data: me } = useMeQuery({});
  const { data: clearing } = useClearingQuery({});
  const chosen = (search.get('charges') ?? '').split(',').map(Number);
  const charges = (clearing?.rows ?? []).filter(({ id }) => chosen.includes(id));
  const first = charges.find(({ partyId }) => partyId !== null);
  const fromOrder = wanted !== null ? { id: wanted, name: search.get('name') ?? '' } : null;
  const fromCharge = first?.partyId ? { id: first.partyId, name: first.party ?? '' } : null;
  const [own, setOwn] = useState<Party | null | undefined>(undefined);
  const party = own === undefined ? (fromOrder ?? fromCharge) : own;
  if (!me || !clearing) return <Waiting />;
  return (
    <Entering
      key={party?.id ?? 0}
      party={party}
      setParty={setOwn}
      today={me.company.today}
      currency={me.company.currency}
      chosen={chosen}
      orderId={Number(search.get('order')) || null}
    />
  );
}

interface EnteringProps {
  party: Party | null;
  setParty: (party: Party | null) => void;
  today: string;
  currency: string;
  chosen: readonly number[];
  orderId: number | null;
}

function Entering({ party, setParty, today, currency, chosen, orderId }: EnteringProps) {
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
  return (
    <div className="split">
      <div className="stack">
        <div className="head" style={{ margin: 0 }}>
          <h1>Enter a bill</h1>
          <span className="quiet">
            {foreseen && Number(foreseen.net) > 0
              ? `${amount(foreseen.net)} and ${amount(foreseen.tax)} tax, ${inCurrency}`
              : 'from a supplier, a carrier or the customs'}
          </span>
        </div>
        {problem && answers.length > 0 ? <Asking question={problem.title} answers={answers} busy={busy} /> : <Refused error={refused} />}
        <section className="card pad fields" aria-label="Bill">
          <PartyPicker as="supplier" label="From" value={party} onChange={setParty} error={at('partyId')} autoFocus={party === null} />
          <Choice
            label="It is a"
            value={kind}
            onChange={changeKind}
            options={[
              { value: 'bill', label: 'bill' },
              { value: 'credit', label: 'credit' },
            ]}
          />
          <Field label="Their number" value={reference} onChange={setReference} error={at('reference')} autoFocus={party !== null} />
          <DayField label="Of" lies="behind" value={billedOn} today={today} onChange={setBilledOn} error={at('billedOn')} />
          <DayField label="Due" value={dueOn} today={today} onChange={setDueOn} error={at('dueOn')} />
          <Field label="Currency" value={inCurrency} onChange={setCurrency} error={fieldFault('currency')} />
          {inCurrency === currency ? null : <Field label={`${currency} for one ${inCurrency}`} value={rate} onChange={setRate} error={fieldFault('rate')} />}
          <label className="check">
            <input type="checkbox" checked={withTax} onChange={(event) => setWithTax(event.target.checked)} /> Tax on goods as on the items
          </label>
        </section>
        {party === null ? (
          <p className="card state">Choose who bills. What has come from them and is not billed yet will stand here, ready to be checked.</p>
        ) : null}
        {billable ? <BillOrders lines={billable.lines} ticked={ticked} setTicked={setTicked} /> : null}
        {party !== null && billable ? (
          <BillLines
            kind={kind}
            partyId={party.id}
            goods={goods}
            setGoods={(next) => setGoods(all.map((one) => (onBill(one) ? (next[goods.indexOf(one)] ?? one) : one)))}
            charges={kind === 'bill' ? charges : []}
            setCharges={setCharges}
            others={others}
            setOthers={setOthers}
            accounts={accounts?.rows ?? []}
            worked={foreseen?.lines ?? []}
            faultAt={fieldFault}
          />
        ) : null}
      </div>
      <BookEffectPanel title="What this will change" effects={foreseen} error={unforeseen} idle="Put in what is billed, and it stands here what that does." />
      <BottomBar
        hint="Empty lines stay open for another bill"
        next={{
          label: foreseen
            ? `Post ${kind} of ${amount(amountText(inCurrency, decimal(foreseen.net).plus(foreseen.tax)))}`
            : `Post ${count(lines.length, 'line')}`,
          run: () => void post(),
          disabled: busy || party === null || lines.length === 0,
        }}
      />
    </div>
  );
}
