import Button from '@mui/material/Button';
import { useWatch } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { amount, count, shortDay } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { problemOf } from '../../kit/problem';
import { useVersionOf } from '../../kit/row';
import { Refused } from '../../kit/states';
import { BookEffectPanel } from '../../shared/BookEffectPanel';
import { useSay } from '../../shared/say';
import { useCreateInvoiceMutation, useForeseeInvoiceQuery } from './api';
import { Charges } from './Charges';
import { draftOf, foreseenInvoice, invoiceField, sentInvoice, type InvoiceDraft, type Proposal } from './invoiceDraft';
import { DraftLines } from './InvoiceLines';
import { TotalsOf } from './TotalsOf';

const { Check, Day, Field, LongField } = fieldsOf<InvoiceDraft>();

interface SheetProps {
  proposal: Proposal;
  today: string;
  /** The company's currency. */
  own: string;
}

/** An invoice before it is issued: what it is for is as it went out and was agreed; its words, days and charges are looked over. */
export function InvoiceSheet({ proposal, today, own }: SheetProps) {
  const { party, currency, orders, dispatches } = proposal;
  const navigate = useNavigate();
  const say = useSay();
  const [create] = useCreateInvoiceMutation();
  const form = useForm({
    came: draftOf(proposal, today),
    version: useVersionOf(proposal),
    rowKeys: {
      dispatches: ({ orderId, movementId }) => `${orderId} ${movementId}`,
      freight: ({ shipmentId }) => String(shipmentId),
    },
    body: sentInvoice,
    checkedBy: async () => (await import('@larder/contract/invoices')).createInvoice.body,
    sentAs: invoiceField,
  });
  const typed = useWatch({ control: form.control }) as InvoiceDraft;
  const body = sentInvoice(typed);
  const asked = useDelayed(foreseenInvoice(typed), 250);
  const ready = asked.dispatches.length > 0;
  const { data: last, error } = useForeseeInvoiceQuery({ body: asked }, { skip: !ready });
  const foreseen = ready && !error ? last : undefined;
  const issue = async () => {
    const made = await form.send((sent) => create({ body: sent }));
    if (!made?.id) return;
    say({ text: `${made.number ?? 'The invoice'} is issued.` });
    void navigate(`/books/invoices/${made.id}`, { replace: true });
  };
  return (
    <FormFrame form={form} save={() => void issue()} foreseen={problemOf(ready ? error : undefined)}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>New invoice</h1>
            <span>{party}</span>
            <span className="quiet">{orders.map(({ number }) => number).join(', ')}</span>
          </PageHead>
          <Refused error={form.refused} />
          <Card pad fields aria-label="Invoice">
            <Day label="Dated" lies="behind" name="invoicedOn" today={today} needed proposed={today} />
            <Day label="To be paid by" name="dueOn" today={today} proposed={foreseen?.dueOn ?? null} />
            <Field label="Their order" name="reference" />
            {currency === own ? null : <Field label={`${own} for one ${currency}`} name="rate" proposed={proposal.rate} />}
          </Card>
          {dispatches.length > 1 ? (
            <Card pad stack aria-label="Dispatches">
              {dispatches.map((one, index) => (
                <Check
                  key={`${one.orderId} ${one.movementId}`}
                  label={`${one.order}, ${one.straight ? 'sent straight' : 'went out'} ${shortDay(one.dispatchedOn, today)}, ${count(one.lines, 'line')}`}
                  name={`dispatches.${index}.on`}
                />
              ))}
            </Card>
          ) : null}
          <Card pad stack aria-label="Words above">
            <LongField label="Words above the lines" name="opening" rows={2} />
          </Card>
          {last ? <DraftLines lines={last.lines} currency={currency} /> : null}
          <Charges shipments={proposal.freight} usualTax={proposal.taxCodeId} />
          {foreseen ? <TotalsOf of={foreseen} /> : null}
          <Card pad stack aria-label="Words below">
            <LongField label="Words below the lines" name="closing" rows={2} />
          </Card>
        </Stack>
        <BookEffectPanel title="What this will change" effects={foreseen} error={ready ? error : undefined} idle="Choose at least one dispatch." />
        <BottomBar
          hint="Once it is issued it stays; what is wrong is credited"
          next={{
            label: foreseen ? `Issue invoice of ${amount(foreseen.total)} ${currency}` : 'Issue the invoice',
            run: () => void issue(),
            disabled: form.isBusy || body.dispatches.length === 0,
          }}
        >
          {dispatches.length > 1 ? (
            <Button component={Link} to={`?orders=${orders.map(({ id }) => id).join(',')}&each=1`}>
              Issue several
            </Button>
          ) : null}
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
