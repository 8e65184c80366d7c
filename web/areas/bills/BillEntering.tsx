import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Check } from '../../kit/Check';
import { amountText } from '@larder/core/books/currency';
import { decimal } from '@larder/core/decimal';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { Choice, Field } from '../../kit/Field';
import { amount, count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { PartyPicker } from '../../shared/PartyPicker';
import { BillLines } from './BillLines';
import { BillOrders } from './BillOrders';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { useBill, type BillBegun, type Party } from './useBill';

interface EnteringProps extends BillBegun {
  setParty: (party: Party | null) => void;
}

/** Where a bill is entered. */
export function Entering({ party, setParty, today, currency, chosen, orderId }: EnteringProps) {
  const bill = useBill({ party, today, currency, chosen, orderId });
  const { kind, foreseen, unforeseen, inCurrency, problem, answers, at, fieldFault } = bill;
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Enter a bill</h1>
          <span className="quiet">
            {foreseen && Number(foreseen.net) > 0
              ? `${amount(foreseen.net)} and ${amount(foreseen.tax)} tax, ${inCurrency}`
              : 'from a supplier, a carrier or the customs'}
          </span>
        </PageHead>
        {problem && answers.length > 0 ? <Asking question={problem.title} answers={answers} busy={bill.busy} /> : <Refused error={bill.refused} />}
        <Card pad fields aria-label="Bill">
          <PartyPicker as="supplier" label="From" value={party} onChange={setParty} error={at('partyId')} autoFocus={party === null} />
          <Choice
            label="Kind"
            value={kind}
            onChange={bill.changeKind}
            options={[
              { value: 'bill', label: 'bill' },
              { value: 'credit', label: 'credit' },
            ]}
          />
          <Field label="Their number" value={bill.reference} onChange={bill.setReference} error={at('reference')} autoFocus={party !== null} />
          <DayField label="Dated" lies="behind" value={bill.billedOn} today={today} onChange={bill.setBilledOn} error={at('billedOn')} />
          <DayField label="Due" value={bill.dueOn} today={today} onChange={bill.setDueOn} error={at('dueOn')} />
          <Field label="Currency" value={inCurrency} onChange={bill.setCurrency} error={fieldFault('currency')} />
          {inCurrency === currency ? null : (
            <Field label={`${currency} for one ${inCurrency}`} value={bill.rate} onChange={bill.setRate} error={fieldFault('rate')} />
          )}
          <Check label="Tax on goods as on the items" checked={bill.withTax} onChange={(checked) => bill.setWithTax(checked)} />
        </Card>
        {party === null ? (
          <Card state component="p">
            Choose who bills. What has come from them and is not billed yet will stand here, ready to be checked.
          </Card>
        ) : null}
        {bill.billable ? <BillOrders lines={bill.billable.lines} ticked={bill.ticked} setTicked={bill.setTicked} /> : null}
        {party !== null && bill.billable ? (
          <BillLines
            kind={kind}
            partyId={party.id}
            goods={bill.goods}
            setGoods={bill.setGoods}
            charges={bill.charges}
            setCharges={bill.setCharges}
            others={bill.others}
            setOthers={bill.setOthers}
            accounts={bill.accounts}
            worked={foreseen?.lines ?? []}
            faultAt={fieldFault}
          />
        ) : null}
      </Stack>
      <BookEffectPanel title="What this will change" effects={foreseen} error={unforeseen} idle="Put in what is billed, and it stands here what that does." />
      <BottomBar
        hint="Empty lines stay open for another bill"
        next={{
          label: foreseen ? `Post ${kind} of ${amount(amountText(inCurrency, decimal(foreseen.net).plus(foreseen.tax)))}` : `Post ${count(bill.sent, 'line')}`,
          run: () => void bill.post(),
          disabled: bill.busy || party === null || bill.sent === 0,
        }}
      />
    </Split>
  );
}
