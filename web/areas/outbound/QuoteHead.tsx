import { memo } from 'react';
import { Card } from '../../kit/layout';
import { proposedShipBy } from '@larder/core/outbound/shipBy';
import { fieldsOf } from '../../kit/formFields';
import { focusNewLine } from '../../shared/LineEntry';
import { PartyField } from '../../shared/PartyField';
import type { QuoteForm } from './quoteForm';

const { Choice, Day, Field } = fieldsOf<QuoteForm>();

interface QuoteHeadProps {
  isNew: boolean;
  today: string;
  sites: readonly { id: number; name: string }[];
  shipDays: number;
}

/** For whom a quote is, from where and by when it goes. */
export const QuoteHead = memo(function QuoteHead({ isNew, today, sites, shipDays }: QuoteHeadProps) {
  return (
    <Card pad fields aria-label="Quote">
      <PartyField as="customer" label="Customer" name="customer" autoFocus={isNew} chosen={(party) => party && focusNewLine()} />
      <Choice label="From" name="siteId" ids options={sites.map(({ id, name }) => ({ value: String(id), label: name }))} />
      <Day label="Ship by" name="shipBy" proposed={proposedShipBy(today, shipDays)} needed today={today} />
      <Field label="Note" name="note" />
    </Card>
  );
});
