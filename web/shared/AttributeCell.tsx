import { remindsOn } from '@larder/core/catalog/reminder';
import type { Attribute } from '@larder/contract/attributes';
import { shortDay } from '../kit/format';

/** An own attribute in a list; a day that reminds somebody says when. */
export function AttributeCell({ attribute, value, today }: { attribute: Attribute; value: string | undefined; today: string }) {
  if (!value) return null;
  if (attribute.kind !== 'date') return <>{value}</>;
  const reminds = remindsOn(value, attribute.reminderDays);
  return (
    <span className="nowrap">
      {shortDay(value, today)}
      {reminds === null ? null : (
        <small className={`name ${reminds <= today ? 'low' : 'quiet'}`}>reminds {reminds <= today ? 'now' : shortDay(reminds, today)}</small>
      )}
    </span>
  );
}
