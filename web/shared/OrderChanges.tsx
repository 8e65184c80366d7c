import { isDay } from '@larder/core/day';
import { shortDay } from '../kit/format';
import { Card, Log } from '../kit/layout';

interface OrderChangesProps {
  changes: readonly { at: string; person: string; field: string; was: string | null; is: string }[];
  today: string;
}

/** What the fields of orders are called; others are called as they are kept. */
const names: Readonly<Record<string, string>> = {
  decision: 'decided',
  expectedOn: 'expected',
  reference: 'their number',
  shipBy: 'ship by',
  shipTo: 'goes to',
  validUntil: 'prices offered until',
};

/** What was changed of an order, by whom. */
export function OrderChanges({ changes, today }: OrderChangesProps) {
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
              {names[change.field] ?? change.field}: {change.was ? `${told(change.was, today)} to ` : ''}
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
