import { Card, Log } from '../../kit/layout';
import { isDay } from '@larder/core/day';
import type { PurchaseOrder } from '@larder/contract/inbound';
import { shortDay } from '../../kit/format';

/** What was changed of an order after it was placed, by whom. */
export function OrderChanges({ changes, today }: { changes: PurchaseOrder['changes']; today: string }) {
  if (changes.length === 0) return null;
  return (
    <Card aria-label="Changes">
      <h2>
        Changes<span>the last first</span>
      </h2>
      <Log>
        {changes.map((change, index) => (
          <li key={`${change.at} ${index}`}>
            <span>
              {change.field}: {change.was ? `${told(change.was, today)} to ` : ''}
              {told(change.is, today) || 'none'}
            </span>
            <small className="quiet">
              {change.person}, {shortDay(change.at.slice(0, 10), today)}
            </small>
          </li>
        ))}
      </Log>
    </Card>
  );
}

/** What was changed, a day in words. */
const told = (text: string, today: string): string => (isDay(text) ? shortDay(text, today) : text);
