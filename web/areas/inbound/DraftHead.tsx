import { Card } from '../../kit/layout';
import { PartyPicker } from '../../shared/PartyPicker';
import { useReferenceQuery } from '../../shared/reference';
import { DayField } from '../../kit/DayField';
import { Choice, Field } from '../../kit/Field';
import type { DraftForm } from './draftForm';

interface DraftHeadProps {
  form: DraftForm;
  put: (part: Partial<DraftForm>) => void;
  /** As it was typed, or as the supplier's terms say. */
  expectedOn: string | null;
  isNew: boolean;
  today: string;
  /** The currency of the business. */
  currency: string;
  at: (field: string) => string | undefined;
}

/** Of whom, where to, when and in which currency a draft orders. */
export function DraftHead({ form, put, expectedOn, isNew, today, currency, at }: DraftHeadProps) {
  const { data: reference } = useReferenceQuery({});
  return (
    <Card pad fields aria-label="Order">
      <PartyPicker
        as="supplier"
        label="Supplier"
        value={form.supplier}
        onChange={(supplier) => put({ supplier })}
        error={form.supplier === null ? at('supplierId') && 'Choose the supplier.' : at('supplierId')}
        autoFocus={isNew}
      />
      <Choice
        label="Deliver to"
        value={form.toCustomer ? 'customer' : String(form.siteId)}
        onChange={(value) => put(value === 'customer' ? { toCustomer: true } : { toCustomer: false, siteId: Number(value) })}
        options={[
          ...(reference?.sites ?? []).map(({ id, name }) => ({ value: String(id), label: name })),
          { value: 'customer', label: 'straight to a customer' },
        ]}
        error={at('siteId')}
      />
      {form.toCustomer ? (
        <PartyPicker
          as="customer"
          label="Customer it goes to"
          value={form.shipsTo}
          onChange={(shipsTo) => put({ shipsTo })}
          error={form.shipsTo === null ? at('shipsToId') && 'Choose the customer.' : at('shipsToId')}
        />
      ) : null}
      <DayField label="Expected" value={expectedOn} today={today} onChange={(day) => put({ expectedOn: day })} error={at('expectedOn')} />
      <DayField
        label="Ordered on, if not today"
        lies="behind"
        value={form.orderedOn}
        today={today}
        onChange={(orderedOn) => put({ orderedOn })}
        error={at('orderedOn')}
      />
      <Field label="Currency" value={form.currency} onChange={(text) => put({ currency: text.toUpperCase() })} error={at('currency')} />
      {form.currency === currency ? null : (
        <Field label={`${currency} for one ${form.currency}`} value={form.rate} onChange={(rate) => put({ rate })} error={at('rate')} />
      )}
      <Field label="Note" value={form.note} onChange={(note) => put({ note })} error={at('note')} />
    </Card>
  );
}
