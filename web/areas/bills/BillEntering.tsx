import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { amountText } from '@larder/core/books/currency';
import { decimal } from '@larder/core/decimal';
import { Asking } from '../../kit/Asking';
import { BottomBar } from '../../kit/BottomBar';
import { Field as PlainField } from '../../kit/Field';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { amount, count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { PartyPicker } from '../../shared/PartyPicker';
import { BillLines } from './BillLines';
import { BillOrders } from './BillOrders';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { useBill, type BillBegun, type BillDraft, type Party } from './useBill';

const { Check, Choice, Day, Field } = fieldsOf<BillDraft>();

interface EnteringProps extends BillBegun {
  setParty: (party: Party | null) => void;
}

/** Where a bill is entered. */
export function Entering({ party, setParty, today, currency, chosen, orderId }: EnteringProps) {
  const bill = useBill({ party, today, currency, chosen, orderId });
  const { form, typed, put, foreseen, unforeseen, inCurrency, answers, fieldFault } = bill;
  const { kind } = typed;
  const changeKind = () => put('goods', null);
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
            <PartyPicker as="supplier" label="From" value={party} onChange={setParty} error={fieldFault('partyId')} autoFocus={party === null} />
            <Choice
              label="Kind"
              name="kind"
              chosen={changeKind}
              options={[
                { value: 'bill', label: 'bill' },
                { value: 'credit', label: 'credit' },
              ]}
            />
            <Field label="Their number" name="reference" autoFocus={party !== null} />
            <Day label="Dated" lies="behind" name="billedOn" today={today} />
            <Day label="Due" name="dueOn" today={today} />
            <PlainField label="Currency" value={inCurrency} onChange={(text) => put('currency', text)} error={fieldFault('currency')} />
            {inCurrency === currency ? null : (
              <PlainField label={`${currency} for one ${inCurrency}`} value={bill.rate} onChange={(text) => put('rate', text)} error={fieldFault('rate')} />
            )}
            <Check label="Tax on goods as on the items" name="withTax" />
          </Card>
          {party === null ? (
            <Card state component="p">
              Choose who bills. What has come from them and is not billed yet will stand here, ready to be checked.
            </Card>
          ) : null}
          {bill.billable ? <BillOrders lines={bill.billable.lines} ticked={typed.ticked} setTicked={(ticked) => put('ticked', ticked)} /> : null}
          {party !== null && bill.billable ? (
            <BillLines
              kind={kind}
              partyId={party.id}
              goods={bill.goods}
              setGoods={(goods) => put('goods', bill.allWith(goods))}
              charges={bill.charges}
              setCharges={(charges) => put('charges', charges)}
              others={typed.others}
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
            label: foreseen
              ? `Post ${kind} of ${amount(amountText(inCurrency, decimal(foreseen.net).plus(foreseen.tax)))}`
              : `Post ${count(bill.lines.length, 'line')}`,
            run: () => void bill.post(),
            disabled: form.isBusy || party === null || bill.lines.length === 0,
          }}
        />
      </Split>
    </FormFrame>
  );
}
