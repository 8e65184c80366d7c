import Button from '@mui/material/Button';
import { memo, useEffect, useState } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { count, shortDay } from '../../kit/format';
import { fieldsOf, upper } from '../../kit/formFields';
import { Card } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { focusNewLine } from '../../shared/LineEntry';
import { PartyField } from '../../shared/PartyField';
import type { ProposedDays, QuoteForm } from './quoteForm';
import { ShipTo } from './ShipTo';

const { Check, Choice: OneOf, Day, Field } = fieldsOf<QuoteForm>();

interface QuoteHeadProps {
  isNew: boolean;
  today: string;
  sites: readonly { id: number; name: string }[];
  proposed: ProposedDays;
  /** The currency of the business. */
  own: string;
}

/** For whom a quote is, from where, where to and by when it goes, and how long its prices are offered. */
export const QuoteHead = memo(function QuoteHead({ isNew, today, sites, proposed, own }: QuoteHeadProps) {
  const { control, getValues, setValue } = useFormContext<QuoteForm>();
  const currency = useWatch({ control, name: 'currency' });
  // Somebody who comes with the customer chosen goes on with the first line.
  const [hasCustomer] = useState(() => getValues('customer') !== null);
  useEffect(() => {
    if (isNew && hasCustomer) focusNewLine();
  }, [isNew, hasCustomer]);
  return (
    <>
      <Card pad fields aria-label="Quote">
        <PartyField
          as="customer"
          label="Customer"
          name="customer"
          autoFocus={isNew && !hasCustomer}
          chosen={(party) => {
            // An address belongs to who was chosen before.
            setValue('shipTo', '', { shouldDirty: true });
            // And what they pay in, with its rate.
            const paysIn = party?.salesCurrency ?? own;
            if (paysIn !== getValues('currency')) setValue('rate', '', { shouldDirty: true });
            setValue('currency', paysIn, { shouldDirty: true });
            if (party) focusNewLine();
          }}
        />
        <OneOf label="From" name="siteId" ids options={sites.map(({ id, name }) => ({ value: String(id), label: name }))} />
        <Day label="Ship by" name="shipBy" proposed={proposed.shipBy} needed today={today} />
        <Day label="Prices offered until" name="validUntil" proposed={proposed.validUntil} needed today={today} />
        <Field label="Their number" name="reference" />
        <Field label="Per cent off all of it" name="discount" />
        <Field label="Currency" name="currency" read={upper} />
        {currency === own ? null : <Field label={`${own} for one ${currency}`} name="rate" />}
        <ShipTo />
        <Field label="Note" name="note" />
        <Check label="Goes out whole, not in parts" name="whole" />
      </Card>
      <OwnDays proposed={proposed} today={today} />
    </>
  );
});

/** After the order's day was changed: lines that ship by days of their own may move along. */
function OwnDays({ proposed, today }: { proposed: ProposedDays; today: string }) {
  const { control, getValues, setValue } = useFormContext<QuoteForm>();
  const typed = useWatch({ control, name: 'shipBy' });
  const shipBy = typed ?? proposed.shipBy;
  const own = useWatch({ control, name: 'lines', compute: (lines) => lines.filter((line) => line.shipBy).length });
  const [answered, setAnswered] = useState(shipBy);
  if (own === 0 || shipBy === answered) return null;
  const moveAlong = () => {
    for (const [index, line] of getValues('lines').entries()) if (line.shipBy) setValue(`lines.${index}.shipBy`, null, { shouldDirty: true });
    setAnswered(shipBy);
  };
  return (
    <Notice role="status">
      <span>{own === 1 ? 'One line ships' : `${count(own, 'line')} ship`} by days of their own.</span>
      <Button size="small" onClick={moveAlong}>
        Ship {own === 1 ? 'it' : 'them'} by {shortDay(shipBy, today)} too
      </Button>
      <Button size="small" onClick={() => setAnswered(shipBy)}>
        Leave {own === 1 ? 'it' : 'them'}
      </Button>
    </Notice>
  );
}
