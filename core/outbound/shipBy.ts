import { addDays, nextWorkday, type Day } from '../day';
import type { FieldError } from '../refusal';

/** The ship-by day the business's rule proposes: so many days after today, on a working day. */
export const proposedShipBy = (today: Day, shipDays: number): Day => nextWorkday(addDays(today, shipDays));

export const shipByPassed = 'The ship-by day has passed already.';
export const promisePassed = 'A day that has passed cannot be promised.';

/** What is wrong with the days of lines that are written anew, by field of `list`. */
export const dayFaults = (lines: readonly { shipBy: Day | null; promisedOn: Day | null }[], today: Day, list = 'lines'): FieldError[] =>
  lines.flatMap(({ shipBy, promisedOn }, index): FieldError[] => [
    ...(shipBy !== null && shipBy < today ? [{ field: `${list}.${index}.shipBy`, sentence: shipByPassed }] : []),
    ...(promisedOn !== null && promisedOn < today ? [{ field: `${list}.${index}.promisedOn`, sentence: promisePassed }] : []),
  ]);
