import { memo } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { fieldsOf, upper } from '../../kit/formFields';
import { Card } from '../../kit/layout';
import { focusNewLine } from '../../shared/LineEntry';
import { PartyField } from '../../shared/PartyField';
import { useReferenceQuery } from '../../shared/reference';
import { Choice } from '../../kit/Field';
import type { DraftForm } from './draftForm';

const { Day, Field } = fieldsOf<DraftForm>();

interface DraftHeadProps {
  /** The day that the supplier's terms say, until somebody types another. */
  byTerms: string | null;
  isNew: boolean;
  today: string;
  /** The currency of the business. */
  own: string;
}

/** Of whom, where to, when and in which currency a draft orders. */
export const DraftHead = memo(function DraftHead({ byTerms, isNew, today, own }: DraftHeadProps) {
  const { control } = useFormContext<DraftForm>();
  const currency = useWatch({ control, name: 'currency' });
  const toCustomer = useWatch({ control, name: 'toCustomer' });
  return (
    <Card pad fields aria-label="Order">
      <PartyField as="supplier" label="Supplier" name="supplier" autoFocus={isNew} chosen={(party) => party && focusNewLine()} />
      <DeliverTo />
      {toCustomer ? <PartyField as="customer" label="Customer it goes to" name="shipsTo" chosen={(party) => party && focusNewLine()} /> : null}
      <Day label="Expected" name="expectedOn" proposed={byTerms} today={today} />
      <Day label="Ordered on, if not today" lies="behind" name="orderedOn" today={today} />
      <Field label="Currency" name="currency" read={upper} />
      {currency === own ? null : <Field label={`${own} for one ${currency}`} name="rate" />}
      <Field label="Note" name="note" />
    </Card>
  );
});

/** One of the sites, or straight to a customer. */
function DeliverTo() {
  const { control, setValue, getFieldState } = useFormContext<DraftForm>();
  const [siteId, toCustomer] = useWatch({ control, name: ['siteId', 'toCustomer'] });
  const { data: reference } = useReferenceQuery({});
  return (
    <Choice
      label="Deliver to"
      value={toCustomer ? 'customer' : String(siteId)}
      onChange={(value) => {
        setValue('toCustomer', value === 'customer', { shouldDirty: true });
        if (value !== 'customer') setValue('siteId', Number(value), { shouldDirty: true });
      }}
      options={[
        ...(reference?.sites ?? []).map(({ id, name }) => ({ value: String(id), label: name })),
        { value: 'customer', label: 'straight to a customer' },
      ]}
      error={getFieldState('siteId').error?.message}
    />
  );
}
