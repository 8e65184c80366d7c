import { Card } from '../../kit/layout';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import { DayField } from '../../kit/DayField';
import { Choice, Field } from '../../kit/Field';
import { PartyPicker } from '../../shared/PartyPicker';

/** The head of a quote while it is written. */
export interface QuoteForm {
  customer: { id: number; name: string } | null;
  siteId: number;
  shipBy: string;
  note: string;
}

interface QuoteHeadProps {
  form: QuoteForm;
  put: (part: Partial<QuoteForm>) => void;
  isNew: boolean;
  today: string;
  sites: readonly { id: number; name: string }[];
  shipDays: number;
  at: (field: string) => string | undefined;
}

/** For whom a quote is, from where and by when it goes. */
export function QuoteHead({ form, put, isNew, today, sites, shipDays, at }: QuoteHeadProps) {
  return (
    <Card pad fields aria-label="Quote">
      <PartyPicker
        as="customer"
        label="Customer"
        value={form.customer}
        onChange={(customer) => put({ customer })}
        error={form.customer === null ? at('customerId') && 'Choose the customer.' : at('customerId')}
        autoFocus={isNew}
      />
      <Choice
        label="From"
        value={String(form.siteId)}
        onChange={(value) => put({ siteId: Number(value) })}
        options={sites.map(({ id, name }) => ({ value: String(id), label: name }))}
        error={at('siteId')}
      />
      <DayField
        label="Ship by"
        value={form.shipBy}
        today={today}
        onChange={(day) => put({ shipBy: day ?? proposedShipBy(today, shipDays) })}
        error={at('shipBy')}
      />
      <Field label="Note" value={form.note} onChange={(note) => put({ note })} error={at('note')} />
    </Card>
  );
}
