import { addDays, nextWorkday, type Day } from '../day';

/** The ship-by day the business's rule proposes: so many days after today, on a working day. */
export const proposedShipBy = (today: Day, shipDays: number): Day => nextWorkday(addDays(today, shipDays));
