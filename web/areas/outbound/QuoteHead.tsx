import Button from '@mui/material/Button';
import { memo, useState } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { count, shortDay } from '../../kit/format';
import { Choice } from '../../kit/Field';
import { fieldsOf } from '../../kit/formFields';
import { Card } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { focusNewLine } from '../../shared/LineEntry';
import { PartyField } from '../../shared/PartyField';
import { usePartyQuery } from '../../shared/reference';
import type { ProposedDays, QuoteForm } from './quoteForm';

const { Choice: OneOf, Day, Field, LongField } = fieldsOf<QuoteForm>();

interface QuoteHeadProps {
  isNew: boolean;
  today: string;
  sites: readonly { id: number; name: string }[];
  proposed: ProposedDays;
}

/** For whom a quote is, from where, where to and by when it goes, and how long its prices are offered. */
export const QuoteHead = memo(function QuoteHead({ isNew, today, sites, proposed }: QuoteHeadProps) {
  const { setValue } = useFormContext<QuoteForm>();
  return (
    <>
      <Card pad fields aria-label="Quote">
        <PartyField
          as="customer"
          label="Customer"
          name="customer"
          autoFocus={isNew}
          chosen={(party) => {
            // An address belongs to who was chosen before.
            setValue('shipTo', '', { shouldDirty: true });
            if (party) focusNewLine();
          }}
        />
        <OneOf label="From" name="siteId" ids options={sites.map(({ id, name }) => ({ value: String(id), label: name }))} />
        <Day label="Ship by" name="shipBy" proposed={proposed.shipBy} needed today={today} />
        <Day label="Prices offered until" name="validUntil" proposed={proposed.validUntil} needed today={today} />
        <Field label="Their number" name="reference" />
        <Field label="Per cent off all of it" name="discount" />
        <ShipTo />
        <Field label="Note" name="note" />
      </Card>
      <OwnDays proposed={proposed} today={today} />
    </>
  );
});

/** The customer's own address, another one of theirs, or one that is typed. */
function ShipTo() {
  const { control, setValue } = useFormContext<QuoteForm>();
  const customerId = useWatch({ control, name: 'customer', compute: (customer) => customer?.id ?? null });
  const shipTo = useWatch({ control, name: 'shipTo' });
  const { data: party } = usePartyQuery({ params: { id: customerId ?? 0 } }, { skip: customerId === null });
  const [isTyped, setTyped] = useState(false);
  const known = customerId === null ? [] : (party?.addresses ?? []);
  const at = known.findIndex(({ address }) => address === shipTo);
  const value = isTyped ? 'typed' : shipTo === '' ? 'own' : at >= 0 ? String(at) : 'typed';
  return (
    <>
      <Choice
        label="Goes to"
        value={value}
        onChange={(chosen) => {
          setTyped(chosen === 'typed');
          if (chosen !== 'typed') setValue('shipTo', known[Number(chosen)]?.address ?? '', { shouldDirty: true });
        }}
        options={[
          { value: 'own', label: 'their own address' },
          ...known.map(({ label }, index) => ({ value: String(index), label })),
          { value: 'typed', label: 'another address' },
        ]}
      />
      {value === 'typed' ? <LongField label="Address it goes to" name="shipTo" rows={3} /> : null}
    </>
  );
}

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
