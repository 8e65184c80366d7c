import type { reference } from '@larder/contract/setup';
import type { ResponseOf } from '@larder/contract/endpoint';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { Decided } from './Decided';

const { Field } = fieldsOf<{ shipDays: number; quoteDays: number }>();

/** What the business promises its customers: in how many days an order ships, and how long the prices of a quote hold. */
export function Selling({ now: { shipDays, quoteDays } }: { now: ResponseOf<typeof reference> }) {
  return (
    <Decided title="Selling" came={{ shipDays, quoteDays }} said="What is promised to customers is kept.">
      <Field label="Days until an order ships" name="shipDays" read={wholeOrNone} />
      <Field label="Days through which the prices of a quote are offered" name="quoteDays" read={wholeOrNone} />
      <p className="quiet">Both are proposed on a new quote; on each another day can be typed.</p>
    </Decided>
  );
}
