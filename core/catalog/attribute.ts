import { isNumber } from '../number';
import { isDay } from '../day';

/** What is known of one of the business's own attributes. */
export interface AttributeFacts {
  id: number;
  name: string;
  kind: string;
  choices: readonly string[];
}

/** What is wrong with a value for an attribute, or null. */
export function attributeFault(facts: AttributeFacts | undefined, value: string): string | null {
  if (!facts) return 'There is no such attribute.';
  if (facts.kind === 'number' && !isNumber(value, 'fact')) return `${facts.name} is a number, such as 12.5.`;
  if (facts.kind === 'date' && !isDay(value)) return `${facts.name} is a day.`;
  if (facts.kind === 'choice' && !facts.choices.includes(value)) return `${facts.name} is one of ${facts.choices.join(', ')}.`;
  return null;
}
