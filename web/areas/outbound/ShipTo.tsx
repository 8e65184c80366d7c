import { useState } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import { Choice } from '../../kit/Field';
import { fieldsOf } from '../../kit/formFields';
import { usePartyQuery } from '../../shared/reference';
import type { QuoteForm } from './quoteForm';

const { LongField } = fieldsOf<WithAddress>();

/** A form that says to whom something goes, and where. */
type WithAddress = Pick<QuoteForm, 'customer' | 'shipTo'>;

/** The customer's own address, another one of theirs, or one that is typed. */
export function ShipTo() {
  const { control, setValue } = useFormContext<WithAddress>();
  const customerId = useWatch({ control, name: 'customer', compute: (customer) => customer?.id ?? null });
  const shipTo = useWatch({ control, name: 'shipTo' });
  const { currentData: party } = usePartyQuery({ params: { id: customerId ?? 0 } }, { skip: customerId === null });
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
