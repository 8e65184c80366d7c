import { useState } from 'react';
import { currencyPlaces } from '@larder/core/books/currency';
import { addDays } from '@larder/core/day';
import { orderTotals } from '@larder/core/inbound/totals';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { useSite } from '../../shared/site';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { refusalOf, useDraft } from '../../kit/draft';
import { Choice, Field } from '../../kit/Field';
import { draftAmount, LineSheet, sentLines, writtenLines, type DraftLine } from '../../shared/LineSheet';
import { Refused } from '../../kit/states';
import { useReferenceQuery } from '../../shared/reference';
import { PartyPicker } from '../../shared/PartyPicker';
import { useCreatePurchaseMutation, useDecidePurchaseMutation, useEditPurchaseMutation } from './api';
import { LineTerms } from './LineTerms';
import { OrderCharges, type DraftCharge } from './OrderCharges';
import { OrderSums } from './OrderSums';
import { useTerms } from './useTerms';

interface DraftProps {
  order: PurchaseOrder | null;
  /** What it begins with: itself, or the order it is copied from. */
  like: PurchaseOrder | undefined;
  today: string;
  currency: string;
}

/** A purchase order while it is written: prices follow the supplier's terms until somebody types another. */
export function DraftOrder({ order, like, today, currency }: DraftProps) {
  const { siteId: chosenSite } = useSite();
  const { data: reference } = useReferenceQuery({});
  const [supplier, setSupplier] = useState(like ? { id: like.supplierId, name: like.supplier } : null);
  const [siteId, setSiteId] = useState<number | null>(like?.siteId ?? chosenSite ?? null);
  /** Undefined until somebody types a day: then the terms say when it comes. */
  const [typedDay, setExpectedOn] = useState<string | null | undefined>(order ? order.expectedOn : undefined);
  const [orderedOn, setOrderedOn] = useState<string | null>(order?.orderedOn ?? null);
  const [inCurrency, setInCurrency] = useState(like?.currency ?? currency);
  const [rate, setRate] = useState(like?.rate ?? '1');
  const [note, setNote] = useState(like?.note ?? '');
  const [shipsTo, setShipsTo] = useState(like?.shipsToId ? { id: like.shipsToId, name: like.shipsTo ?? '' } : null);
  const [toCustomer, setToCustomer] = useState(shipsTo !== null);
  const [charges, setCharges] = useState<DraftCharge[]>(() => (like?.charges ?? []).map(({ label, amount, taxCodeId }) => ({ label, amount, taxCodeId })));
  const [written, setLines] = useState<DraftLine[]>(() => {
    const days = order?.lines.map((line) => line.expectedOn) ?? [];
    return writtenLines(like?.lines ?? []).map((line, index) => ({ ...line, ...(days[index] ? { expectedOn: days[index] } : {}) }));
  });
  const terms = useTerms(supplier?.id ?? null, written);
  // What was agreed with a supplier is in our own currency.
  const foreign = inCurrency !== currency;
  const lines = foreign ? written : written.map(terms.priced);
  const places = currencyPlaces(inCurrency) ?? 2;
  const expectedOn = typedDay === undefined ? (terms.leadDays === null ? null : addDays(today, terms.leadDays)) : typedDay;
  const [create, creating] = useCreatePurchaseMutation();
  const [edit, editing] = useEditPurchaseMutation();
  const [decide, deciding] = useDecidePurchaseMutation();
  const { refused, problem, busy, at } = refusalOf(creating, editing, deciding);
  const deliverTo = siteId ?? reference?.sites[0]?.id ?? 0;
  const body = {
    supplierId: supplier?.id ?? 0,
    siteId: deliverTo,
    shipsToId: toCustomer ? (shipsTo?.id ?? 0) : null,
    expectedOn,
    orderedOn,
    currency: inCurrency,
    rate: foreign ? rate.trim() : '1',
    note,
    charges: charges.map((charge) => ({ ...charge, amount: charge.amount.trim() })),
    lines: sentLines(lines).map((line, index) => ({ ...line, expectedOn: lines[index]?.expectedOn ?? null })),
  };
  const save = () => (order ? edit({ params: { id: order.id }, body: { ...body, version: order.version } }) : create({ body }));
  const draft = useDraft<PurchaseOrder>(order, save, (id) => `/inbound/orders/${id}`);
  const place = () => draft.decide((saved) => decide({ params: { id: saved.id }, body: { decision: 'place', version: saved.version } }));
  const sums = orderTotals(
    lines.map((line) => ({ amount: draftAmount(line, places) ?? '0', baseQuantity: '1', cancelled: '0', rate: terms.taxRate(line.itemId) })),
    charges.map(({ amount, taxCodeId }) => ({
      amount: /^\d{1,12}(\.\d{1,4})?$/.test(amount.trim()) ? amount.trim() : '0',
      rate: reference?.taxes.find(({ id }) => id === taxCodeId)?.rate ?? '0',
    })),
    places,
  );
  return (
    <div className="stack">
      <div className="head" style={{ margin: 0 }}>
        <h1>{order ? order.number : 'New purchase order'}</h1>
        <span className="quiet">draft: nothing is on order yet</span>
      </div>
      <Refused error={refused} />
      <section className="card pad fields" aria-label="Order">
        <PartyPicker
          as="supplier"
          label="Supplier"
          value={supplier}
          onChange={setSupplier}
          error={supplier === null ? at('supplierId') && 'Choose the supplier.' : at('supplierId')}
          autoFocus={!order}
        />
        <Choice
          label="Deliver to"
          value={toCustomer ? 'customer' : String(deliverTo)}
          onChange={(value) => {
            setToCustomer(value === 'customer');
            if (value !== 'customer') setSiteId(Number(value));
          }}
          options={[
            ...(reference?.sites ?? []).map(({ id, name }) => ({ value: String(id), label: name })),
            { value: 'customer', label: 'straight to a customer' },
          ]}
          error={at('siteId')}
        />
        {toCustomer ? (
          <PartyPicker
            as="customer"
            label="Customer it goes to"
            value={shipsTo}
            onChange={setShipsTo}
            error={shipsTo === null ? at('shipsToId') && 'Choose the customer.' : at('shipsToId')}
          />
        ) : null}
        <DayField label="Expected" value={expectedOn} today={today} onChange={setExpectedOn} error={at('expectedOn')} />
        <DayField label="Ordered on, if not today" lies="behind" value={orderedOn} today={today} onChange={setOrderedOn} error={at('orderedOn')} />
        <Field label="Currency" value={inCurrency} onChange={(text) => setInCurrency(text.toUpperCase())} error={at('currency')} />
        {foreign ? <Field label={`${currency} for one ${inCurrency}`} value={rate} onChange={setRate} error={at('rate')} /> : null}
        <Field label="Note" value={note} onChange={setNote} error={at('note')} />
      </section>
      <LineSheet
        lines={lines}
        change={setLines}
        way="buys"
        problem={problem}
        places={places}
        aside={{
          name: 'Their terms',
          cell: (line) => (
            <LineTerms
              line={line}
              terms={foreign ? undefined : terms.of(line.itemId)}
              today={today}
              take={(part) => setLines(lines.map((one) => (one === line ? { ...one, ...part } : one)))}
            />
          ),
        }}
      />
      <OrderCharges charges={charges} change={setCharges} at={at} />
      <OrderSums
        currency={inCurrency}
        sums={[
          ['Goods', sums.goods.toFixed(places)],
          ...(charges.length > 0 ? [['Charges', sums.charges.toFixed(places)] as const] : []),
          ['Tax', sums.tax.toFixed(places)],
          ['In all', sums.total.toFixed(places)],
        ]}
      />
      <BottomBar
        hint="Enter takes a line; Ctrl Enter places the order"
        next={{
          label: `Place order of ${lines.length === 1 ? '1 line' : `${lines.length} lines`}`,
          run: () => void place(),
          disabled: busy || lines.length === 0,
        }}
      >
        <button type="button" className="button" disabled={busy} onClick={() => void draft.keep()}>
          Save draft
        </button>
      </BottomBar>
    </div>
  );
}
