import type { z } from 'zod';

const kinds: ReadonlyMap<string, string> = new Map([
  ['string', 'text'],
  ['number', 'a number'],
  ['int', 'a whole number'],
  ['nan', 'a number'],
  ['boolean', 'yes or no (true or false)'],
  ['array', 'a list'],
  ['tuple', 'a list'],
  ['object', 'a group of fields'],
  ['record', 'a group of fields'],
  ['null', 'empty'],
]);

/** What a field says that a rule of its own says nothing about. */
export function sentenceOf(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? 'This must be filled.' : `This should be ${kinds.get(issue.expected) ?? 'something else'}.`;
    case 'invalid_value':
      return issue.input === undefined ? 'This must be filled.' : `This should be one of: ${issue.values.slice(0, 12).map(String).join(', ')}.`;
    case 'too_small':
      return `${issue.inclusive === false ? 'More than' : 'At least'} ${sized(Number(issue.minimum), issue.origin)}.`;
    case 'too_big':
      return `${issue.inclusive === false ? 'Less than' : 'At most'} ${sized(Number(issue.maximum), issue.origin)}.`;
    case 'not_multiple_of':
      return `This should be a multiple of ${issue.divisor}.`;
    case 'unrecognized_keys':
      return `Not known here: ${issue.keys.join(', ')}.`;
    case 'invalid_format':
      return 'This does not have the form that is asked for.';
    default:
      return 'This does not fit what is asked for.';
  }
}

function sized(size: number, origin: string): string {
  const said = size.toLocaleString('en-GB');
  if (origin === 'string') return `${said} ${size === 1 ? 'character' : 'characters'}`;
  return origin === 'array' || origin === 'set' ? `${said} in the list` : said;
}
