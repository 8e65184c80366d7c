import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { amountText } from '@larder/core/books/currency';
import { decimal } from '@larder/core/decimal';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { amount, count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { PartyField } from '../../shared/PartyField';
import { BillLines } from './BillLines';
import { untyped } from './billDraft';
import { BillOrders } from './BillOrders';
import { SentBills } from './ParcelsBilled';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { useBill, type BillBegun, type BillDraft } from './useBill';

const { Check, Choice, Day, Field } = fieldsOf<BillDraft>();

/** Where a bill is entered. */
export function Entering(begun: BillBegun) {
  const { today, currency } = begun;
  const bill = useBill(begun);
  const { form, typed, party, put, foreseen, unforeseen, inCurrency, answers } = bill;
  const { kind } = typed;
  const changeKind = () => put('goods', typed.goods.map(untyped));
  return (
    <FormFrame form={form} save={() => void bill.post()} foreseen={bill.foreseenProblem}>
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
          {form.refused && answers.length > 0 ? (
            <Asking question={form.refused.title} answers={answers} busy={form.isBusy} />
          ) : (
            <Refused error={form.refused} />
          )}
          <Card pad fields aria-label="Bill">
            <PartyField as="supplier" label="From" name="party" chosen={bill.chooseParty} autoFocus={begun.party === null} />
            <Choice
              label="Kind"
              name="kind"
              chosen={changeKind}
              options={[
                { value: 'bill', label: 'bill' },
                { value: 'credit', label: 'credit' },
              ]}
            />
            <Field label="Their number" name="reference" autoFocus={begun.party !== null} />
            <Day label="Dated" lies="behind" name="billedOn" today={today} />
            <Day label="Due" name="dueOn" today={today} />
            <Field label="Currency" name="currency" proposed={inCurrency} />
            {inCurrency === currency ? null : <Field label={`${currency} for one ${inCurrency}`} name="rate" proposed={bill.rate} />}
            <Check label="Tax on goods as on the items" name="withTax" />
          </Card>
          {party === null ? (
            <Card state component="p">
              Choose who bills. What has come from them and is not billed yet will stand here, ready to be checked.
            </Card>
          ) : null}
          {kind === 'bill' ? <SentBills bills={bill.sentBills} takeIn={bill.takeIn} /> : null}
          {bill.billable ? <BillOrders lines={bill.billable.lines} ticked={typed.ticked} setTicked={(ticked) => put('ticked', ticked)} /> : null}
          {party !== null && bill.billable ? (
            <BillLines
              kind={kind}
              partyId={party.id}
              goods={bill.goods}
              charges={bill.charges}
              parcels={bill.parcels}
              sent={bill.sent}
              accounts={bill.accounts}
              worked={foreseen?.lines ?? []}
            />
          ) : null}
        </Stack>
        <BookEffectPanel title="What this will change" effects={foreseen} error={unforeseen} idle="Type what is billed; what posting it does stands here." />
        <BottomBar
          hint="Empty lines stay open for another bill"
          next={{
            label: foreseen
              ? `Post ${kind} of ${amount(amountText(inCurrency, decimal(foreseen.net).plus(foreseen.tax)))}`
              : `Post ${count(bill.sent.length, 'line')}`,
            run: () => void bill.post(),
            disabled: form.isBusy || party === null || bill.sent.length === 0,
          }}
        />
      </Split>
    </FormFrame>
  );
}
